<!-- What is wrong with a field, beside it. -->
<script lang="ts">
  import { Helper } from 'flowbite-svelte';
  import type { FormFault } from './call.ts';

  let { fault, of }: { fault: FormFault | null; of: readonly string[] } = $props();
</script>

{#if fault?.field !== undefined && of.includes(fault.field)}
  <Helper class="basis-full text-sm text-accent dark:text-accent" role="alert">{fault.message}</Helper>
{/if}

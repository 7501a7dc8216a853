<script lang="ts">
  import type { Snippet } from 'svelte';

  let { children, actions }: { children?: Snippet; actions?: Snippet } = $props();
</script>

<header class="flex items-center gap-3 h-11 py-0 px-7 border-b border-b-line bg-panel">
  <a class="flex items-center gap-2 font-semibold text-lg" href="/"
    ><img src="/mark.svg" alt="" width="20" height="20" />Line True</a
  >
  {@render children?.()}
  <span class="flex-1"></span>
  {@render actions?.()}
</header>

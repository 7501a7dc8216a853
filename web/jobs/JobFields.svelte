<!-- What is known of a job. -->
<script lang="ts">
  import { Input, Label } from 'flowbite-svelte';
  import FieldFault from '$lib/FieldFault.svelte';
  import type { FormFault } from '$lib/call.ts';

  export interface JobWords {
    name: string;
    client: string;
    site: string;
    due: string;
  }
  /** `fault`: what the server said of them. */
  let { job = $bindable(), fault }: { job: JobWords; fault: FormFault | null } = $props();
</script>

<Label>Name<Input required maxlength={200} bind:value={job.name} /><FieldFault {fault} of={['name']} /></Label
>
<Label>Client<Input maxlength={200} bind:value={job.client} /><FieldFault {fault} of={['client']} /></Label>
<Label>Site<Input maxlength={200} bind:value={job.site} /><FieldFault {fault} of={['site']} /></Label>
<Label>Due<Input type="date" bind:value={job.due} /><FieldFault {fault} of={['due']} /></Label>

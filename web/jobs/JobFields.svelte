<!-- What is known of a job. -->
<script lang="ts">
  import { Input, Label } from 'flowbite-svelte';

  export interface JobWords {
    name: string;
    client: string;
    site: string;
    due: string;
  }
  let { job = $bindable() }: { job: JobWords } = $props();
</script>

<Label>Name<Input required maxlength={200} bind:value={job.name} /></Label>
<Label>Client<Input maxlength={200} bind:value={job.client} /></Label>
<Label>Site<Input maxlength={200} bind:value={job.site} /></Label>
<Label>Due<Input type="date" bind:value={job.due} /></Label>

<!-- One of the studio's deliverables: its settings, to be saved, copied and removed. -->
<script lang="ts">
  import { Button } from 'flowbite-svelte';
  import { untrack } from 'svelte';
  import { type Deliverable, deliverableFault } from '$core/picture/output/deliverable-schema.ts';
  import type { FormFault } from '$lib/call.ts';
  import DeliverableFields from './DeliverableFields.svelte';

  interface Props {
    document: Deliverable;
    /** Ready-made: to be copied, not changed. */
    fixed: boolean;
    save: (document: Deliverable) => Promise<void>;
    copy: () => Promise<void>;
    remove: () => Promise<void>;
    said: string;
    /** What the server would not take. */
    refused: FormFault | null;
  }
  let { document: given, fixed, save, copy, remove, said, refused }: Props = $props();
  let wanted = $state(untrack(() => structuredClone($state.snapshot(given)) as Deliverable));
  const fault = $derived(deliverableFault(wanted));
  const changed = $derived(JSON.stringify(wanted) !== JSON.stringify(given));
</script>

<form
  onsubmit={(event) => {
    event.preventDefault();
    void save($state.snapshot(wanted) as Deliverable);
  }}
>
  <DeliverableFields bind:wanted {fixed} fault={fault ?? refused} />
  <div class="foot flex items-center gap-2.5 mt-3.5">
    {#if fixed}
      <Button onclick={copy}>Copy to change it</Button>
      <span class="quiet">Ready-made deliverables stay as they are.</span>
    {:else}
      <Button type="submit" disabled={!changed || fault !== null}>Save</Button>
      <Button color="light" onclick={copy}>Copy</Button>
      <Button color="light" onclick={remove}>Remove</Button>
    {/if}
    <span role="status">{fault || refused?.field ? '' : (refused?.message ?? said)}</span>
  </div>
</form>

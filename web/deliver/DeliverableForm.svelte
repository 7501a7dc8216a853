<!-- One of the studio's deliverables: its settings, to be saved, copied and removed. -->
<script lang="ts">
  import { untrack } from 'svelte';
  import { type Deliverable, deliverableFault } from '$core/output/deliverable-schema.ts';
  import DeliverableFields from './DeliverableFields.svelte';

  interface Props {
    document: Deliverable;
    /** Ready-made: to be copied, not changed. */
    fixed: boolean;
    save: (document: Deliverable) => Promise<void>;
    copy: () => Promise<void>;
    remove: () => Promise<void>;
    said: string;
  }
  let { document: given, fixed, save, copy, remove, said }: Props = $props();
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
  <DeliverableFields bind:wanted {fixed} />
  <div class="foot flex items-center gap-2.5 mt-3.5">
    {#if fixed}
      <button type="button" class="tool main" onclick={copy}>Copy to change it</button>
      <span class="quiet">Ready-made deliverables stay as they are.</span>
    {:else}
      <button type="submit" class="tool main" disabled={!changed || fault !== null}>Save</button>
      <button type="button" class="tool" onclick={copy}>Copy</button>
      <button type="button" class="tool" onclick={remove}>Remove</button>
    {/if}
    <span role="status" class:bad={fault !== null}>{fault ?? said}</span>
  </div>
</form>

<style>
  .bad {
    color: var(--accent);
  }
</style>

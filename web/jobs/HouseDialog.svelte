<!-- Lays house settings over the selected frames of a job. -->
<script lang="ts">
  import { Button, Modal, Radio } from 'flowbite-svelte';
  import { holdsText, houseAmount, placedName } from '$core/recipe/house-settings.ts';
  import { call } from '$lib/call.ts';
  import { undoChanges } from '$lib/take-back.ts';
  import { toasts } from '$lib/toasts/toasts.svelte.ts';
  import type { HouseRow } from '$server/recipes/house-settings.ts';
  import type { SetChange } from '$server/recipes/write-recipe.ts';
  import NumberControl from '../bench/controls/NumberControl.svelte';

  interface Props {
    open: boolean;
    job: string;
    frames: readonly string[];
  }
  let { open = $bindable(), job, frames }: Props = $props();
  let rows = $state.raw<HouseRow[]>([]);
  let chosen = $state('');
  let amount = $state<number>(houseAmount.default);
  let said = $state('');
  $effect(() => {
    if (!open) return;
    said = '';
    call<HouseRow[]>('/api/house-settings').then(
      (found) => (rows = found),
      (reason: Error) => (said = reason.message)
    );
  });
  async function apply(): Promise<void> {
    try {
      const { frames: done, changed } = await call<SetChange>(`/api/jobs/${job}/house-settings`, {
        method: 'POST',
        body: { set: chosen, frames, amount }
      });
      open = false;
      const name = rows.find(({ id }) => id === chosen)?.name;
      toasts.tell(`${name} is laid over ${done} ${done === 1 ? 'frame' : 'frames'}.`, {
        undo: undoChanges(job, changed)
      });
    } catch (reason) {
      said = (reason as Error).message;
    }
  }
</script>

<Modal title="House settings" bind:open size="sm">
  {#if rows.length === 0}
    <p>None yet. On the bench, House keeps steps of a frame as a set.</p>
  {:else}
    <ul class="max-h-75 overflow-y-auto border border-line" aria-label="House settings">
      {#each rows as row (row.id)}
        <li class="px-2 py-1">
          <Radio name="house-set" value={row.id} bind:group={chosen}
            >{placedName(row)}<span class="quiet ml-2">{holdsText(row)}</span></Radio
          >
        </li>
      {/each}
    </ul>
    <NumberControl
      setting={houseAmount}
      description={houseAmount.description}
      value={amount}
      change={(next) => (amount = next)}
    />
  {/if}
  <div class="foot flex items-center gap-2.5">
    <Button disabled={chosen === '' || frames.length === 0} onclick={apply}
      >Lay over {frames.length} {frames.length === 1 ? 'frame' : 'frames'}</Button
    >
    <span role="status">{said}</span>
  </div>
</Modal>

<!-- Prepares the selected frames in one go, with progress, and lists those that want a look. -->
<script lang="ts">
  import { Button, Checkbox, Modal, Select } from 'flowbite-svelte';
  import { placedName } from '$core/recipe/house-settings.ts';
  import { call } from '$lib/call.ts';
  import { undoChanges } from '$lib/take-back.ts';
  import { toasts } from '$lib/toasts/toasts.svelte.ts';
  import type { TrueUpMode } from '$core/steps/lines/solve-rotation.ts';
  import type { HouseRow } from '$server/recipes/house-settings.ts';
  import TrueUpModeSelect from '../bench/lines/TrueUpModeSelect.svelte';
  import type { Prepared } from '$server/set/prepare-frame.ts';
  import { type FramesDone, doneText, framesInTurn } from './frames-in-turn.ts';
  import InTurn from './InTurn.svelte';

  interface Props {
    open: boolean;
    job: string;
    ratios: readonly string[];
    frames: readonly { id: string; name: string }[];
  }
  let { open = $bindable(), job, ratios, frames }: Props = $props();
  let straighten = $state(true);
  let trues = $state(true);
  let mode = $state<TrueUpMode>('verticals');
  let ratio = $state('');
  let tone = $state(true);
  let colour = $state(true);
  let house = $state('');
  let dust = $state(false);
  let sets = $state.raw<HouseRow[]>([]);
  let working = $state.raw<{ done: number; name: string } | null>(null);
  let stopped = $state(false);
  let made = $state.raw<FramesDone | null>(null);
  let said = $state('');
  $effect(() => {
    if (!open) return;
    made = null;
    said = '';
    call<HouseRow[]>('/api/house-settings').then(
      (found) => (sets = found),
      (reason: Error) => (said = reason.message)
    );
  });
  const nothing = $derived(
    !straighten && !trues && ratio === '' && !tone && !colour && house === '' && !dust
  );

  async function prepare(): Promise<void> {
    stopped = false;
    const auto = [...(tone ? ['tone'] : []), ...(colour ? ['colour'] : [])];
    const wanted = {
      straighten,
      trueUp: trues ? mode : null,
      ratio: ratio || null,
      auto,
      house: house || null,
      dust
    };
    const found = await framesInTurn(
      frames,
      (id) => call<Prepared>(`/api/frames/${id}/prepare`, { method: 'POST', body: wanted }),
      (done, name) => {
        working = { done, name };
        return !stopped;
      }
    );
    working = null;
    made = found;
    toasts.tell(doneText(found, 'prepared'), { undo: undoChanges(job, found.changed) });
    if (found.looks.length === 0) open = false;
  }
</script>

<Modal title="Prepare" bind:open size="sm" dismissable={working === null} outsideclose={false}>
  {#if made}
    <InTurn {working} all={frames.length} {made} verb="prepared" close={() => (open = false)} />
  {:else}
    <p class="quiet">
      In this order, for {frames.length}
      {frames.length === 1 ? 'frame' : 'frames'}. A lens is corrected by its profile as it is.
    </p>
    <Checkbox bind:checked={straighten} disabled={working !== null}
      >Straighten and even colour edges, where no profile is known</Checkbox
    >
    <div class="flex items-center gap-2">
      <Checkbox bind:checked={trues} disabled={working !== null}>True up</Checkbox>
      {#if trues}<TrueUpModeSelect bind:mode />{/if}
    </div>
    <label class="flex items-center gap-2">
      Crop, where nobody has cropped yet
      <Select placeholder="" class="w-30" aria-label="Crop to" bind:value={ratio} disabled={working !== null}>
        <option value="">as it is</option>
        {#each ratios as each (each)}<option value={each}>{each}</option>{/each}
      </Select>
    </label>
    <Checkbox bind:checked={tone} disabled={working !== null}>Tone by itself</Checkbox>
    <Checkbox bind:checked={colour} disabled={working !== null}>White balance by itself</Checkbox>
    <label class="flex items-center gap-2">
      House settings, what they change
      <Select
        placeholder=""
        class="w-44"
        aria-label="House settings"
        bind:value={house}
        disabled={working !== null}
      >
        <option value="">none</option>
        {#each sets as set (set.id)}<option value={set.id}>{placedName(set)}</option>{/each}
      </Select>
    </label>
    <Checkbox bind:checked={dust} disabled={working !== null}>Dust, where it is found</Checkbox>
    <InTurn {working} all={frames.length} {made} verb="prepared" close={() => (open = false)} />
    <div class="foot flex items-center gap-2.5">
      {#if working}
        <Button color="light" disabled={stopped} onclick={() => (stopped = true)}>Stop after this one</Button>
      {:else}
        <Button disabled={frames.length === 0 || nothing} onclick={() => void prepare()}
          >Prepare {frames.length}</Button
        >
      {/if}
      <span role="status">{said}</span>
    </div>
  {/if}
</Modal>

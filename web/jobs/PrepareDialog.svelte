<!-- Prepares the selected frames in one go, with progress, and lists those that want a look. -->
<script lang="ts">
  import { Button, Checkbox, Modal, Progressbar, Select } from 'flowbite-svelte';
  import { call } from '$lib/call.ts';
  import { undoChanges } from '$lib/take-back.ts';
  import { toasts } from '$lib/toasts/toasts.svelte.ts';
  import type { TrueUpMode } from '$core/steps/lines/solve-rotation.ts';
  import type { HouseRow } from '$server/recipes/house-settings.ts';
  import TrueUpModeSelect from '../bench/lines/TrueUpModeSelect.svelte';
  import { type PreparedFrames, prepareFrames } from './prepare-frames.ts';

  interface Props {
    open: boolean;
    job: string;
    ratios: readonly string[];
    frames: readonly { id: string; name: string }[];
  }
  let { open = $bindable(), job, ratios, frames }: Props = $props();
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
  let made = $state.raw<PreparedFrames | null>(null);
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
  const nothing = $derived(!trues && ratio === '' && !tone && !colour && house === '' && !dust);

  async function prepare(): Promise<void> {
    stopped = false;
    const auto = [...(tone ? ['tone'] : []), ...(colour ? ['colour'] : [])];
    const wanted = { trueUp: trues ? mode : null, ratio: ratio || null, auto, house: house || null, dust };
    const found = await prepareFrames(frames, wanted, (done, name) => {
      working = { done, name };
      return !stopped;
    });
    working = null;
    made = found;
    const { done, looks, changed } = found;
    toasts.tell(
      `${done} ${done === 1 ? 'frame' : 'frames'} prepared${looks.length > 0 ? `; ${looks.length} ${looks.length === 1 ? 'wants' : 'want'} a look` : ''}.`,
      { undo: undoChanges(job, changed) }
    );
    if (looks.length === 0) open = false;
  }
</script>

<Modal title="Prepare" bind:open size="sm" dismissable={working === null} outsideclose={false}>
  {#if made}
    <p>These want a look; all others are prepared.</p>
    <ul class="max-h-75 overflow-y-auto border border-line" data-testid="prepare-looks">
      {#each made.looks as { id, name, why } (id)}
        <li class="px-2 py-1">
          <a class="underline" href={`/frames/${id}`}>{name}</a> <span class="quiet">{why}</span>
        </li>
      {/each}
    </ul>
    <Button onclick={() => (open = false)}>Done</Button>
  {:else}
    <p class="quiet">
      In this order, for {frames.length}
      {frames.length === 1 ? 'frame' : 'frames'}. The lens is corrected by its profile as it is.
    </p>
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
        {#each sets as { id, name, folder } (id)}<option value={id}
            >{folder ? `${folder} / ` : ''}{name}</option
          >{/each}
      </Select>
    </label>
    <Checkbox bind:checked={dust} disabled={working !== null}>Dust, where it is found</Checkbox>
    {#if working}
      <div data-testid="preparing">
        <Progressbar progress={Math.round((100 * working.done) / frames.length)} size="h-1.5" />
        <p role="status">{working.name}, {working.done + 1} of {frames.length}…</p>
      </div>
    {/if}
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

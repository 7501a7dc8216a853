<!-- What is done with the selected frames of a job, and in which order and which of them are shown. -->
<script lang="ts">
  import { Button, Checkbox, Input, Label, Modal, Select } from 'flowbite-svelte';
  import FindLensDialog from '../bench/lens/FindLensDialog.svelte';
  import { CHOICES, CHOICE_KEYS, type FrameChoiceName } from '../bench/state/choices.ts';
  import { call } from '$lib/call.ts';
  import type { TrueUpMode } from '$core/steps/lines/solve-rotation.ts';
  import type { FrameCard } from '$server/set/frame-card.ts';
  import type { Loss } from '$server/jobs/remove-job.ts';
  import MeasureDialog from './MeasureDialog.svelte';
  import StraightenDialog from './StraightenDialog.svelte';
  import { lossText } from './loss-text.ts';
  import { trueUpFrames } from './true-up-frames.ts';
  import { FILTERS, type Filter, ORDERS, type Order, passes } from './set-order.ts';

  interface Props {
    job: string;
    cards: readonly FrameCard[];
    /** Those of them that are shown. */
    shown: readonly FrameCard[];
    selected: ReadonlySet<string>;
    selectAll: (on: boolean) => void;
    choose: (choice: FrameChoiceName) => Promise<void>;
    order: Order;
    filter: Filter;
  }
  let {
    job,
    cards,
    shown,
    selected,
    selectAll,
    choose,
    order = $bindable(),
    filter = $bindable()
  }: Props = $props();
  let finding = $state(false);
  let measuring = $state(false);
  let straightening = $state(false);
  let naming = $state(false);
  let room = $state('');
  let said = $state('');
  let mode = $state<TrueUpMode>('verticals');
  /** How far truing up the selected frames has come. */
  let truing = $state('');
  let loss = $state.raw<Loss | null>(null);
  const ids = $derived([...selected]);
  const ready = $derived(
    cards.map(({ frame }) => frame).filter(({ id, state }) => selected.has(id) && state === 'ready')
  );
  const counts = $derived(
    new Map(FILTERS.map((name) => [name, cards.filter((card) => passes(card, name)).length]))
  );
  $effect(() => {
    void ids;
    [said, loss] = ['', null];
  });

  async function act(work: () => Promise<string>): Promise<void> {
    try {
      said = await work();
    } catch (reason) {
      said = (reason as Error).message;
    }
  }
  const count = (n: number): string => `${n} ${n === 1 ? 'frame' : 'frames'}`;
  const give = (profile: string): Promise<void> =>
    act(async () => {
      const { frames } = await call<{ frames: number }>(`/api/jobs/${job}/lens`, {
        method: 'POST',
        body: { frames: ids, profile }
      });
      return `${count(frames)} ${frames === 1 ? 'has' : 'have'} it now.`;
    });
  const nameRooms = (): Promise<void> =>
    act(async () => {
      await call(`/api/jobs/${job}/frames`, { method: 'PATCH', body: { ids, room } });
      naming = false;
      return `${count(ids.length)} named.`;
    });
  const remove = (): Promise<void> =>
    act(async () => {
      if (loss === null) {
        loss = await call<Loss>(`/api/jobs/${job}/loss`, { method: 'POST', body: { ids } });
        return '';
      }
      await call(`/api/jobs/${job}/frames`, { method: 'DELETE', body: { ids } });
      return '';
    });

  async function trueUp(): Promise<void> {
    const done = await trueUpFrames(ready, mode, (text) => (truing = text));
    [truing, said] = ['', done];
  }
</script>

<div
  class="batch mt-3.5 flex flex-wrap items-center gap-x-2.5 gap-y-2"
  role="toolbar"
  aria-label="Selected frames"
>
  <Checkbox
    checked={shown.length > 0 && shown.every(({ frame }) => selected.has(frame.id))}
    onchange={(event) => selectAll(event.currentTarget.checked)}
    >{selected.size === 0 ? 'Select all' : `${selected.size} selected`}</Checkbox
  >
  <Select placeholder="" aria-label="Order" title="Order of the frames" bind:value={order}>
    {#each ORDERS as name (name)}<option value={name}>by {name}</option>{/each}
  </Select>
  <Select placeholder="" aria-label="Which frames" title="Which frames are shown" bind:value={filter}>
    {#each FILTERS as name (name)}<option value={name}>{name} ({counts.get(name)})</option>{/each}
  </Select>
  <span class="mx-1 h-5 border-l border-l-line"></span>
  {#each CHOICES as choice (choice)}
    <Button
      color="light"
      disabled={selected.size === 0}
      title={`The selected frames are ${choice} (${CHOICE_KEYS[choice].toUpperCase()}, also for the one under the pointer)`}
      onclick={() => choose(choice)}>{choice}</Button
    >
  {/each}
  <Button color="light" disabled={selected.size === 0} onclick={() => (naming = true)}>Name the room…</Button>
  <span class="mx-1 h-5 border-l border-l-line"></span>
  <Button color="light" disabled={ready.length === 0 || truing !== ''} onclick={trueUp}>True up</Button>
  <Select placeholder="" aria-label="What becomes true" bind:value={mode}>
    <option value="verticals">verticals</option>
    <option value="level">level only</option>
    <option value="both">verticals and level</option>
    <option value="front">whole front</option>
  </Select>
  <Button color="light" disabled={selected.size === 0} onclick={() => (finding = true)}
    >Give a lens profile…</Button
  >
  <Button color="light" disabled={selected.size === 0} onclick={() => give('auto')}>Match by itself</Button>
  <Button color="light" disabled={ready.length === 0} onclick={() => (measuring = true)}
    >Measure a lens…</Button
  >
  <Button
    color="light"
    disabled={ready.length < 2}
    title={ready.length < 2 ? 'Select two frames or more of one lens' : 'By the edges of the selected frames'}
    onclick={() => (straightening = true)}>Straighten a lens…</Button
  >
  <Button color="light" disabled={selected.size === 0} onclick={remove}
    >{loss ? `Remove ${selected.size} for good` : 'Remove…'}</Button
  >
  {#if loss}
    <p role="alert" data-testid="loss">
      {lossText(loss)}
      <Button color="light" onclick={() => (loss = null)}>Keep them</Button>
    </p>
  {/if}
  <span role="status">{truing || said}</span>
</div>
<FindLensDialog bind:open={finding} pick={give} />
<MeasureDialog bind:open={measuring} frames={ready} />
<StraightenDialog bind:open={straightening} frames={ready} />
<Modal title="Name the room" bind:open={naming} size="xs">
  <form
    class="flex flex-col gap-3"
    onsubmit={(event) => {
      event.preventDefault();
      void nameRooms();
    }}
  >
    <Label
      >What {count(selected.size)}
      {selected.size === 1 ? 'shows' : 'show'}, for file names<Input
        maxlength={60}
        placeholder="Kitchen"
        bind:value={room}
      /></Label
    >
    <Button type="submit">Name {selected.size === 1 ? 'it' : 'them'}</Button>
  </form>
</Modal>

<script lang="ts">
  import { Button, Fileupload, Progressbar, Select } from 'flowbite-svelte';
  import { invalidateAll } from '$app/navigation';
  import { onMount, untrack } from 'svelte';
  import { SvelteSet } from 'svelte/reactivity';
  import { CHOICES, CHOICE_KEYS, type FrameChoiceName } from '../../../bench/state/choices.ts';
  import { isTakenBy } from '../../../bench/controls/commands.ts';
  import FrameGrid from '../../../jobs/FrameGrid.svelte';
  import FrameTile from '../../../jobs/FrameTile.svelte';
  import LargeFrame from '../../../jobs/LargeFrame.svelte';
  import JobDialog from '../../../jobs/JobDialog.svelte';
  import RulesDialog from '../../../jobs/RulesDialog.svelte';
  import { hint } from '../../../lib/hints/hint.ts';
  import SetBar from '../../../jobs/SetBar.svelte';
  import { call } from '$lib/call.ts';
  import { toasts } from '$lib/toasts/toasts.svelte.ts';
  import { undoSaid } from '$lib/take-back.ts';
  import { LOST, hearEvents } from '$lib/hear-events.ts';
  import ViewMenu from '$lib/ViewMenu.svelte';
  import TopBand from '../../../jobs/TopBand.svelte';
  import { droppedFiles } from '../../../jobs/dropped-files.ts';
  import type { Placing, Side } from '../../../jobs/order-by-hand.ts';
  import {
    type Filter,
    type Order,
    bracketWords,
    inGroups,
    movedBefore,
    passes
  } from '../../../jobs/set-order.ts';
  import { type Pace, followedPace, paceText } from '../../../jobs/time-left.ts';
  import { createUploads, takeWaiting } from '../../../jobs/uploads.svelte.ts';
  import type { FrameCard } from '$server/set/frame-card.ts';
  import type { PageProps } from './$types';

  let { data }: PageProps = $props();
  const jobId = untrack(() => data.job.id);
  let cards = $state.raw<FrameCard[]>(untrack(() => data.cards));
  let lost = $state(false);
  const uploads = createUploads(jobId);
  onMount(() => {
    uploads.add(takeWaiting(jobId));
    return hearEvents<{ cards: FrameCard[]; all: boolean }>(
      `/api/jobs/${jobId}/events`,
      (told) => {
        const changed = new Set(told.cards.map(({ frame }) => frame.id));
        const others = told.all ? [] : cards.filter(({ frame }) => !changed.has(frame.id));
        cards = [...others, ...told.cards];
        const there = new Set(cards.map(({ frame }) => frame.id));
        for (const id of selected) if (!there.has(id)) selected.delete(id);
      },
      (isLost) => (lost = isLost)
    );
  });
  let pace = $state.raw<Pace | null>(null);
  $effect(() => {
    const sending = uploads.list.filter(({ state }) => state === 'waiting' || state === 'sending').length;
    const preparing = cards.filter(({ frame }) => frame.state === 'preparing').length;
    pace = followedPace(
      untrack(() => pace),
      sending + preparing,
      performance.now()
    );
  });
  const timeLeft = $derived(paceText(pace, performance.now()));
  /** Nothing of it is left to be said singly. */
  const allAdded = $derived(uploads.list.every(({ state }) => state === 'added'));
  let over = $state(false);
  let changing = $state(false);
  let trouble = $state('');
  const selected = new SvelteSet<string>();
  let order = $state<Order>(
    untrack(() => (cards.some(({ frame }) => frame.place !== null) ? 'hand' : 'name'))
  );
  let filter = $state<Filter>('all');
  const groups = $derived(
    inGroups(
      cards.filter((card) => passes(card, filter)),
      order
    )
  );
  const shown = $derived(groups.flatMap(({ cards }) => cards));
  const brackets = $derived(bracketWords(cards));

  /** Puts frames beside another one, or last: from then on the job has that order. */
  async function place(ids: readonly string[], target: string | null, side: Side): Promise<void> {
    const all = inGroups(cards, order).flatMap(({ cards }) => cards.map(({ frame }) => frame.id));
    const before = side === 'before' || target === null ? target : (all[all.indexOf(target) + 1] ?? null);
    const wanted = movedBefore(all, ids, before);
    if (wanted.join() === all.join()) return;
    const was = order === 'hand' ? all : [];
    const from = order;
    trouble = '';
    const put = (ids: readonly string[]): Promise<unknown> =>
      call(`/api/jobs/${jobId}/frames/order`, { method: 'PUT', body: { ids } });
    try {
      await put(wanted);
      order = 'hand';
      toasts.tell(`${ids.length === 1 ? 'One frame has' : `${ids.length} frames have`} another place.`, {
        async undo() {
          await put(was);
          order = from;
          return 'The frames stand as before.';
        }
      });
    } catch (reason) {
      trouble = (reason as Error).message;
    }
  }
  const placing: Placing = {
    moved: (id) => (selected.has(id) ? [...selected] : [id]),
    put: (ids, target, side) => void place(ids, target, side)
  };
  /** One place to the left or right, as they are shown. */
  function placeByKey(id: string, step: -1 | 1): void {
    const ids = shown.map(({ frame }) => frame.id);
    const target = ids[ids.indexOf(id) + step];
    if (target) void place([id], target, step < 0 ? 'before' : 'after');
  }
  /** The frame under the pointer, and the one that was selected last. */
  let pointed: string | null = null;
  let last: string | null = null;

  async function choose(ids: readonly string[], choice: FrameChoiceName): Promise<void> {
    trouble = '';
    try {
      const before = cards
        .filter(({ frame }) => ids.includes(frame.id) && frame.choice !== choice)
        .map(({ frame }) => ({ id: frame.id, choice: frame.choice }));
      await call(`/api/jobs/${jobId}/frames`, { method: 'PATCH', body: { ids, choice } });
      // One frame shows it itself.
      if (before.length > 1)
        toasts.tell(`${before.length} frames are ${choice} now.`, { undo: undoSaid(jobId, before) });
    } catch (reason) {
      trouble = (reason as Error).message;
    }
  }
  /** The frame that is seen large. */
  let large = $state<string | null>(null);
  function keydown(event: KeyboardEvent): void {
    if (
      large !== null ||
      event.ctrlKey ||
      event.metaKey ||
      event.altKey ||
      isTakenBy(event.target, event.key)
    )
      return;
    const choice = CHOICES.find((name) => CHOICE_KEYS[name] === event.key.toLowerCase());
    const focused = document.activeElement?.closest<HTMLElement>('[data-frame]')?.dataset.frame;
    const ids = selected.size > 0 ? [...selected] : [pointed ?? focused].flatMap((id) => id ?? []);
    if (choice && ids.length > 0) void choose(ids, choice);
    if (event.shiftKey && (event.key === 'ArrowLeft' || event.key === 'ArrowRight') && focused) {
      event.preventDefault();
      placeByKey(focused, event.key === 'ArrowLeft' ? -1 : 1);
    }
    const wanted = pointed ?? focused ?? [...selected][0] ?? shown[0]?.frame.id;
    if (event.key === ' ' && wanted) {
      event.preventDefault();
      large = wanted;
    }
  }
  function select(id: string, on: boolean, range: boolean): void {
    const order = shown.map(({ frame }) => frame.id);
    const [from, to] = [order.indexOf(range && last ? last : id), order.indexOf(id)].sort((a, b) => a - b);
    for (const one of order.slice(Math.max(0, from), to + 1)) {
      if (on) selected.add(one);
      else selected.delete(one);
    }
    last = id;
  }
  function selectAll(on: boolean): void {
    for (const { frame } of shown) {
      if (on) selected.add(frame.id);
      else selected.delete(frame.id);
    }
  }

  let ruling = $state(false);
  async function setOnAdding(value: string): Promise<void> {
    await call(`/api/jobs/${data.job.id}`, { method: 'PATCH', body: { true_up: value } });
    await invalidateAll();
  }
  let files = $state<HTMLInputElement>();
  let folder = $state<HTMLInputElement>();

  function take(input: HTMLInputElement | undefined): void {
    if (!input) return;
    uploads.add([...(input.files ?? [])]);
    input.value = '';
  }

  const bringsFiles = (event: DragEvent): boolean => event.dataTransfer?.types.includes('Files') ?? false;
  async function drop(event: DragEvent): Promise<void> {
    if (!bringsFiles(event)) return;
    event.preventDefault();
    over = false;
    if (event.dataTransfer) uploads.add(await droppedFiles(event.dataTransfer));
  }
  const words = {
    waiting: 'waiting',
    sending: 'sending',
    added: 'added',
    known: 'already in this job',
    taken: 'is the recipe of its photograph now',
    failed: 'not added'
  };
</script>

<svelte:window onkeydown={keydown} />

<svelte:head><title>{data.job.name} · Line True</title></svelte:head>
<TopBand>
  <span class="quiet">/</span><a href="/">Jobs</a><span class="quiet">/</span><span>{data.job.name}</span>
  {#snippet actions()}
    <Button color="light" onclick={() => (changing = true)}>Change…</Button>
    <Button color="light" href={`/jobs/${data.job.id}/deliver`}>Deliver</Button>
    <ViewMenu />
    <Button color="light" href="/lenses">Catalogue</Button>
    <Button color="light" onclick={() => folder?.click()}>Add a folder</Button>
    <Button onclick={() => files?.click()}>Add frames</Button>
  {/snippet}
</TopBand>
<Fileupload
  class="hidden"
  multiple
  bind:elementRef={files}
  onchange={() => take(files)}
  data-testid="files"
/>
<Fileupload class="hidden" webkitdirectory bind:elementRef={folder} onchange={() => take(folder)} />
<main
  class="page"
  class:over
  ondragover={(event) => {
    if (!bringsFiles(event)) return;
    event.preventDefault();
    over = true;
  }}
  ondragleave={() => (over = false)}
  ondrop={drop}
>
  <div class="flex justify-between items-end">
    <div>
      <h1>{data.job.name}</h1>
      <p class="quiet">
        {[data.job.client, data.job.site, data.job.due && `due ${data.job.due}`].filter(Boolean).join(' · ')}
      </p>
    </div>
    <div class="quiet flex items-center gap-1.5">
      Drop raw files, JPEG, PNG or TIFF here, or a whole folder. When added,
      <Select
        placeholder=""
        aria-label="What becomes true when frames are added"
        value={data.job.true_up}
        onchange={(e) => setOnAdding(e.currentTarget.value)}
      >
        <option value="none">leave them as shot</option>
        <option value="level">level the horizon</option>
        <option value="verticals">true up the verticals</option>
        <option value="both">true up verticals and level</option>
        <option value="front">true up a whole front</option>
      </Select>
      <Button
        color="light"
        {...hint('House settings that are laid over frames by themselves, and over which')}
        onclick={() => (ruling = true)}
        >{data.job.house_rules.length === 0 ? 'House…' : `House (${data.job.house_rules.length})…`}</Button
      >
    </div>
  </div>
  {#if uploads.list.length > 0 && allAdded}
    <p class="mt-3.5 flex items-center gap-2.5" role="status">
      {uploads.list.length}
      {uploads.list.length === 1 ? 'file is' : 'files are'} added.
      <Button color="light" onclick={uploads.clear}>Clear</Button>
    </p>
  {:else if uploads.list.length > 0}
    <section class="uploads mt-3.5 py-2.5 px-3 border border-line bg-panel" aria-label="Files being added">
      <ul>
        {#each uploads.list as upload (upload.key)}
          <li data-state={upload.state}>
            <span class="overflow-hidden text-ellipsis whitespace-nowrap">{upload.name}</span>
            <Progressbar
              size="h-1.25"
              progress={['added', 'known', 'taken'].includes(upload.state)
                ? 100
                : (100 * upload.sent) / (upload.bytes || 1)}
            />
            <span class={upload.state === 'failed' ? 'text-accent' : ''}
              >{upload.error || words[upload.state]}</span
            >
          </li>
        {/each}
      </ul>
      <Button color="light" onclick={uploads.clear}>Clear the list</Button>
    </section>
  {/if}
  {#if lost || trouble}<p class="text-accent" role="alert">{lost ? LOST : trouble}</p>{/if}
  {#if timeLeft}<p class="quiet" role="status" data-testid="time-left">{timeLeft}</p>{/if}
  {#if cards.length > 0}
    <SetBar
      job={jobId}
      ratios={data.job.ratios}
      {cards}
      {shown}
      {selected}
      {selectAll}
      choose={(choice) => choose([...selected], choice)}
      bind:order
      bind:filter
    />
    <div class="mt-4">
      <FrameGrid {groups}>
        {#snippet tile(card)}
          <FrameTile
            {card}
            {placing}
            bracket={brackets.get(card.frame.id) ?? null}
            selected={selected.has(card.frame.id)}
            select={(on, range) => select(card.frame.id, on, range)}
            choose={(choice) => void choose([card.frame.id], choice)}
            remove={() => void call(`/api/frames/${card.frame.id}`, { method: 'DELETE' })}
            pointed={(inside) => (pointed = inside ? card.frame.id : null)}
          />
        {/snippet}
      </FrameGrid>
    </div>
    {#if shown.length === 0}<p class="quiet">No frame of this job is {filter}.</p>{/if}
  {/if}
  {#if cards.length === 0 && uploads.list.length === 0}
    <p class="quiet mt-15 text-center">
      This job has no frames yet. Drop your photographs anywhere on this page, or press Add frames.
    </p>
  {/if}
</main>
{#if large !== null}
  <LargeFrame
    cards={shown}
    shown={large}
    show={(id) => (large = id)}
    choose={(choice) => large && void choose([large], choice)}
    close={() => (large = null)}
  />
{/if}
<JobDialog bind:open={changing} job={data.job} />
<RulesDialog bind:open={ruling} job={data.job.id} rules={data.job.house_rules} kept={invalidateAll} />

<style>
  .page {
    padding: 20px 28px;
    min-height: calc(100vh - 44px);
  }
  .over {
    outline: 3px dashed var(--accent);
    outline-offset: -8px;
  }
  .uploads ul {
    max-height: 160px;
    overflow-y: auto;
    margin-bottom: 8px;
  }
  .uploads li {
    display: grid;
    grid-template-columns: 220px 140px 1fr;
    gap: 12px;
    align-items: center;
    line-height: 1.7;
  }
</style>

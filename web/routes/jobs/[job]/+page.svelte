<script lang="ts">
  import { Button, Checkbox, Fileupload, Select } from 'flowbite-svelte';
  import { invalidateAll } from '$app/navigation';
  import { onMount, untrack } from 'svelte';
  import { SvelteSet } from 'svelte/reactivity';
  import FindLensDialog from '../../../bench/lens/FindLensDialog.svelte';
  import MeasureDialog from '../../../jobs/MeasureDialog.svelte';
  import { call } from '$lib/call.ts';
  import { LOST, hearEvents } from '$lib/hear-events.ts';
  import { cameraText, exposureText, lensText } from '$lib/frame-text.ts';
  import TopBand from '../../../jobs/TopBand.svelte';
  import { droppedFiles } from '../../../jobs/dropped-files.ts';
  import { type Pace, followedPace, paceText } from '../../../jobs/time-left.ts';
  import { createUploads } from '../../../jobs/uploads.svelte.ts';
  import type { TrueUpMode } from '$core/lines/solve-rotation.ts';
  import type { FrameCard } from '$server/frames/frame-card.ts';
  import type { FrameRow } from '$server/frames/frame-row.ts';
  import type { PageProps } from './$types';

  let { data }: PageProps = $props();
  const jobId = untrack(() => data.job.id);
  let cards = $state.raw<FrameCard[]>(untrack(() => data.cards));
  let lost = $state(false);
  const uploads = createUploads(jobId);
  /** Frames in the order that the server lists them in. */
  const inOrder = (a: FrameCard, b: FrameCard): number =>
    a.frame.name < b.frame.name ? -1 : a.frame.name > b.frame.name ? 1 : 0;
  onMount(() =>
    hearEvents<{ cards: FrameCard[]; all: boolean }>(
      `/api/jobs/${jobId}/events`,
      (told) => {
        const changed = new Set(told.cards.map(({ frame }) => frame.id));
        const others = told.all ? [] : cards.filter(({ frame }) => !changed.has(frame.id));
        cards = [...others, ...told.cards].sort(inOrder);
      },
      (isLost) => (lost = isLost)
    )
  );
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
  let over = $state(false);
  const chosen = new SvelteSet<string>();
  let onlyWithout = $state(false);
  let finding = $state(false);
  let measuring = $state(false);
  let said = $state('');
  let onlyLook = $state(false);
  const shown = $derived(
    cards.filter(
      ({ frame, lens, look }) =>
        (!onlyWithout || (frame.facts && lens === null)) && (!onlyLook || look !== null)
    )
  );
  const looks = $derived(cards.filter(({ look }) => look !== null).length);
  const without = $derived(cards.filter(({ frame, lens }) => frame.facts && lens === null).length);
  const chosenFrames = $derived(
    cards.map(({ frame }) => frame).filter(({ id, state }) => chosen.has(id) && state === 'ready')
  );

  async function give(profile: string): Promise<void> {
    try {
      const { frames } = await call<{ frames: number }>(`/api/jobs/${data.job.id}/lens`, {
        method: 'POST',
        body: { frames: [...chosen], profile }
      });
      said = `${frames} ${frames === 1 ? 'frame has' : 'frames have'} it now.`;
    } catch (reason) {
      said = (reason as Error).message;
    }
  }
  /** How far truing up the chosen frames has come. */
  let truing = $state('');
  let mode = $state<TrueUpMode>('verticals');

  async function trueUp(): Promise<void> {
    const frames = chosenFrames;
    let left = 0;
    for (const [i, frame] of frames.entries()) {
      truing = `Truing up ${frame.name}, ${i + 1} of ${frames.length}…`;
      try {
        const { ok } = await call<{ ok: boolean }>(`/api/frames/${frame.id}/true-up?mode=${mode}`, {
          method: 'POST'
        });
        if (!ok) left++;
      } catch (reason) {
        left++;
        said = (reason as Error).message;
      }
    }
    truing = '';
    said =
      left === 0
        ? `${frames.length} trued up.`
        : `${frames.length - left} trued up; ${left} left as they are, see why on each.`;
  }

  async function setOnAdding(value: string): Promise<void> {
    await call(`/api/jobs/${data.job.id}`, { method: 'PATCH', body: { true_up: value } });
    await invalidateAll();
  }
  const toggle = (id: string, on: boolean): void => {
    said = '';
    if (on) chosen.add(id);
    else chosen.delete(id);
  };
  let files = $state<HTMLInputElement>();
  let folder = $state<HTMLInputElement>();

  function take(input: HTMLInputElement | undefined): void {
    if (!input) return;
    uploads.add([...(input.files ?? [])]);
    input.value = '';
  }

  async function drop(event: DragEvent): Promise<void> {
    event.preventDefault();
    over = false;
    if (event.dataTransfer) uploads.add(await droppedFiles(event.dataTransfer));
  }

  async function remove(frame: FrameRow): Promise<void> {
    await call(`/api/frames/${frame.id}`, { method: 'DELETE' });
  }

  const stateText = (frame: FrameRow): string => {
    if (frame.state === 'preparing') return 'preparing…';
    const done = [
      frame.recipe.lines && (frame.recipe.lines.roll || frame.recipe.lines.pitch) ? 'trued up' : null,
      frame.recipe.crop?.ratio && frame.recipe.crop.ratio !== 'original' ? frame.recipe.crop.ratio : null
    ].filter(Boolean);
    return done.length > 0 ? done.join(', ') : frame.version > 0 ? 'in work' : 'new';
  };
  const plumbText = ({ plumb }: FrameCard): string | null =>
    plumb === null ? null : `plumb ${plumb.toFixed(2)}°`;
  const words = {
    waiting: 'waiting',
    sending: 'sending',
    added: 'added',
    known: 'already in this job',
    failed: 'not added'
  };
</script>

<svelte:head><title>{data.job.name} · Line True</title></svelte:head>
<TopBand>
  <span class="quiet">/</span><a href="/">Jobs</a><span class="quiet">/</span><span>{data.job.name}</span>
  {#snippet actions()}
    <Button color="light" href={`/jobs/${data.job.id}/deliver`}>Deliver</Button>
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
    <p class="quiet flex items-center gap-1.5">
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
    </p>
  </div>
  {#if uploads.list.length > 0}
    <section class="uploads mt-3.5 py-2.5 px-3 border border-line bg-panel" aria-label="Files being added">
      <ul>
        {#each uploads.list as upload (upload.key)}
          <li data-state={upload.state}>
            <span class="overflow-hidden text-ellipsis whitespace-nowrap">{upload.name}</span>
            <progress
              class="w-full h-1.25 [accent-color:var(--accent)]"
              max={upload.bytes || 1}
              value={upload.state === 'added' || upload.state === 'known' ? upload.bytes || 1 : upload.sent}
            ></progress>
            <span class:bad={upload.state === 'failed'}>{upload.error || words[upload.state]}</span>
          </li>
        {/each}
      </ul>
      <Button color="light" onclick={uploads.clear}>Clear the list</Button>
    </section>
  {/if}
  {#if lost}<p class="bad" role="alert">{LOST}</p>{/if}
  {#if timeLeft}<p class="quiet" role="status" data-testid="time-left">{timeLeft}</p>{/if}
  {#if cards.length > 0}
    <div class="batch flex items-center gap-2.5 mt-3.5" role="toolbar" aria-label="Chosen frames">
      <label>
        <Checkbox
          checked={shown.length > 0 && shown.every(({ frame }) => chosen.has(frame.id))}
          onchange={(e) => shown.forEach(({ frame }) => toggle(frame.id, e.currentTarget.checked))}
        />
        {chosen.size === 0 ? 'Choose all' : `${chosen.size} chosen`}
      </label>
      <Button color="light" disabled={chosenFrames.length === 0 || truing !== ''} onclick={trueUp}
        >True up</Button
      >
      <Select placeholder="" aria-label="What becomes true" bind:value={mode}>
        <option value="verticals">verticals</option>
        <option value="level">level only</option>
        <option value="both">verticals and level</option>
        <option value="front">whole front</option>
      </Select>
      <Button color="light" disabled={chosen.size === 0} onclick={() => (finding = true)}
        >Give a lens profile…</Button
      >
      <Button color="light" disabled={chosen.size === 0} onclick={() => give('auto')}>Match by itself</Button>
      <Button color="light" disabled={chosenFrames.length === 0} onclick={() => (measuring = true)}
        >Measure a lens…</Button
      >
      <span role="status">{truing || said}</span>
      <span class="flex-1"></span>
      {#if looks > 0 || onlyLook}
        <label
          ><Checkbox bind:checked={onlyLook} /> Only the {looks} that want{looks === 1 ? 's' : ''} a look</label
        >
      {/if}
      {#if without > 0 || onlyWithout}
        <label><Checkbox bind:checked={onlyWithout} /> Only the {without} without a lens profile</label>
      {/if}
    </div>
  {/if}
  <ul class="grid grid-cols-[repeat(auto-fill,minmax(280px,1fr))] gap-4.5 mt-4.5">
    {#each shown as card (card.frame.id)}
      {@const { frame } = card}
      <li class="frame relative border border-line bg-panel hover:border-ink" data-state={frame.state}>
        {#if frame.state === 'ready' && frame.facts}
          <Checkbox
            class="absolute top-2 left-2 w-4.25 h-4.25 z-1"
            aria-label={`Choose ${frame.name}`}
            checked={chosen.has(frame.id)}
            onchange={(e) => toggle(frame.id, e.currentTarget.checked)}
          />
          <a href={`/frames/${frame.id}`} aria-label={`Open ${frame.name}`}>
            <span class="picture grid place-items-center h-47.5 bg-[#d9d9d9]"
              ><img src={`/api/frames/${frame.id}/thumbnail?v=${frame.version}`} alt={frame.name} /></span
            >
            <span class="flex flex-col items-stretch py-2.25 px-2.75 leading-[1.5]">
              <span class="flex justify-between gap-2"
                ><strong>{frame.name}</strong><span class="text-sm border border-line py-0 px-1.5"
                  >{stateText(frame)}</span
                ></span
              >
              {#if card.look}
                <span class="bad">{card.look}</span>
              {:else if frame.lines_said}
                <span>{frame.lines_said.said}</span>
              {/if}
              <span class="flex justify-between gap-2">
                <span>{cameraText(frame.facts)}</span>
                {#if plumbText(card)}
                  <span class="quiet" class:bad={card.look !== null}>{plumbText(card)}</span>
                {/if}
              </span>
              <span>{lensText(frame.facts)}</span>
              <span class="quiet flex justify-between gap-2">
                <span>{exposureText(frame.facts)}</span>
                <span class:bad={card.lens === null}>{card.lens ?? 'no lens profile'}</span>
              </span>
            </span>
          </a>
        {:else}
          {#if card.early}
            <span class="picture grid place-items-center h-47.5 bg-[#d9d9d9]"
              ><img src={`/api/frames/${frame.id}/thumbnail?early`} alt={frame.name} /></span
            >
          {:else}
            <span class="picture quiet grid place-items-center h-47.5 bg-[#d9d9d9]"
              >{frame.state === 'preparing' ? 'preparing…' : 'cannot be opened'}</span
            >
          {/if}
          <span class="flex flex-col items-stretch py-2.25 px-2.75 leading-[1.5]">
            <span class="flex justify-between gap-2"
              ><strong>{frame.name}</strong>{#if card.early}<span
                  class="text-sm border border-line py-0 px-1.5">preparing…</span
                >{/if}</span
            >
            {#if frame.error}
              <span class="bad">{frame.error}</span>
              <Button color="light" onclick={() => remove(frame)}>Remove</Button>
            {/if}
          </span>
        {/if}
      </li>
    {/each}
  </ul>
  {#if cards.length === 0 && uploads.list.length === 0}
    <p class="quiet mt-15 text-center">This job has no frames yet.</p>
  {/if}
</main>
<FindLensDialog bind:open={finding} pick={give} />
<MeasureDialog bind:open={measuring} frames={chosenFrames} />

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
  .batch label {
    display: flex;
    align-items: center;
    gap: 6px;
  }
  .picture img {
    max-width: 100%;
    max-height: 190px;
  }
  .bad {
    color: var(--accent);
    white-space: normal;
  }
</style>

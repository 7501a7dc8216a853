<!-- The bench: band, course and sheet, readings, deck. -->
<script lang="ts">
  import type { Partner } from '$server/hand-over/partners.ts';
  import { onMount, untrack } from 'svelte';
  import { goto } from '$app/navigation';
  import { Button, Modal } from 'flowbite-svelte';
  import { call } from '$lib/call.ts';
  import { hearEvents } from '$lib/hear-events.ts';
  import ViewMenu from '$lib/ViewMenu.svelte';
  import type { FrameCard } from '$server/set/frame-card.ts';
  import type { FrameChoice } from '$server/lenses/lens-choice.ts';
  import type { FrameMeasures } from '$server/frames/found-evidence.ts';
  import type { FrameRow } from '$server/frames/frame-row.ts';
  import type { Job } from '$server/jobs/jobs.ts';
  import type { Point } from '$core/math/frame-geometry.ts';
  import { EVERY_STEP } from '$core/recipe/steps.ts';
  import { RENDITION } from '$core/settings/rendition.ts';
  import CommandFinder from './CommandFinder.svelte';
  import Course from './Course.svelte';
  import HandOverDialog from '../hand-over/HandOverDialog.svelte';
  import ExportDialog from './ExportDialog.svelte';
  import FrameIndex from './FrameIndex.svelte';
  import HistogramView from './HistogramView.svelte';
  import CarryStepsDialog from './house/CarryStepsDialog.svelte';
  import HousePanel from './house/HousePanel.svelte';
  import HistoryPanel from './states/HistoryPanel.svelte';
  import ReadingsBar from './ReadingsBar.svelte';
  import RenderAnew from './RenderAnew.svelte';
  import ShortcutList from './ShortcutList.svelte';
  import ZoomControl from './ZoomControl.svelte';
  import { benchCommands } from './bench-commands.ts';
  import CompareMenu from './compare/CompareMenu.svelte';
  import { createCompare } from './compare/compare-state.svelte.ts';
  import { createBench } from './state/bench-state.svelte.ts';
  import type { FrameChoiceName } from './state/choices.ts';
  import { type Command, tooltip } from './controls/commands.ts';
  import { PARTS, mapSteps } from './every-step.ts';
  import { hearKeys } from './controls/hear-keys.ts';
  import { keepPlace, takePlace } from './kept-place.ts';
  import CropShape from './crop/CropShape.svelte';
  import { readGreys } from './colour/neutral-places.ts';
  import DeckPlaces from './room/DeckPlaces.svelte';
  import DeckEdge from './room/DeckEdge.svelte';
  import { createRoom, provideRoom } from './room/room-state.svelte.ts';
  import type { SheetHandle } from './sheet/sheet-handle.ts';
  import Sheet from './sheet/Sheet.svelte';
  import { createSheet } from './sheet/sheet-state.svelte.ts';
  import type { OtherFrame } from './parts/step-parts.ts';
  import { hint } from '../lib/hints/hint.ts';

  interface Props {
    frame: FrameRow;
    job: Job;
    ready: OtherFrame[];
    /** Frames that came back of it from another program, or the one that it came back of. */
    partners: Partner[];
    choice: FrameChoice;
  }
  let { frame, job, ready, partners, choice: lensChoice }: Props = $props();
  const bench = untrack(() => createBench(frame, lensChoice));
  const kept = untrack(() => takePlace(job.id));
  if (kept) bench.view.step = kept.step;
  const room = untrack(() =>
    provideRoom(
      createRoom(
        () => bench.plan.crop.width / bench.plan.crop.height,
        () => bench.view.moving,
        ready.length > 1
      )
    )
  );
  const sheet = createSheet(bench, kept?.place ?? null, () => room.margin);
  const compare = createCompare(bench);
  const tools = mapSteps((parts) => parts.createTool(bench, sheet));
  const Deck = $derived(PARTS[bench.view.step].deck);
  const Overlay = $derived(PARTS[bench.view.step].overlay);
  /** Nobody takes them by the keyboard while a control moves: they follow when it rests. */
  let handles = $state.raw<readonly SheetHandle[]>([]);
  $effect(() => {
    if (!bench.view.moving) handles = PARTS[bench.view.step].handles?.(bench, sheet) ?? [];
  });
  const tool = $derived(tools[bench.view.step]);
  /** The stream's own losses are of no interest here: it comes again by itself. */
  const ignore = (): void => {};
  async function readMeasured(): Promise<void> {
    const unmeasured: FrameMeasures = {
      edges: [],
      lateral: null,
      found: null,
      reason: 'The edges could not be read. Reload the page.'
    };
    bench.setMeasured(await call<FrameMeasures>(`/api/frames/${frame.id}/edges`).catch(() => unmeasured));
  }
  const greyPlaces = $derived(JSON.stringify(bench.recipe.colour.neutrals));
  $effect(() => {
    const places = JSON.parse(greyPlaces) as Point[];
    if (places.length === 0) bench.setGreys([]);
    else if (sheet.opened) void readGreys(places, sheet).then((found) => bench.setGreys(found));
  });
  onMount(() => {
    if (frame.measured) {
      void readMeasured();
      return;
    }
    // They are measured after the frame can be opened.
    const deaf = hearEvents<{ cards: FrameCard[] }>(
      `/api/jobs/${job.id}/events`,
      ({ cards }) => {
        if (!cards.some((card) => card.frame.id === frame.id && card.frame.measured)) return;
        deaf();
        void readMeasured();
      },
      ignore
    );
    return deaf;
  });
  onMount(() => void bench.readHistory().catch(ignore));
  let history = $state<HistoryPanel>();
  let historyShown = $state(false);
  let houseShown = $state(false);
  let carrying = $state(false);
  let exporting = $state(false);
  let handing = $state(false);
  let anew = $state(false);
  let help = $state(false);
  let finding = $state(false);

  const index = $derived(ready.findIndex((other) => other.id === frame.id));
  const previous = $derived(ready[index - 1]);
  const next = $derived(ready[index + 1]);
  const SAVE_WORDS = {
    saved: 'Saved',
    saving: 'Saving…',
    offline: 'Not saved: trying again',
    conflict: 'Changed elsewhere',
    refused: 'Not saved'
  };
  const commands: Command[] = [
    ...benchCommands(bench, sheet, {
      get previous() {
        return previous ? () => void leave(previous.id) : null;
      },
      get next() {
        return next ? () => void leave(next.id) : null;
      },
      choose: (wanted) => void choose(wanted),
      room,
      compare,
      find: () => (finding = true),
      help: () => (help = true),
      export: () => (exporting = true),
      handOver: () => (handing = true),
      history: () => (historyShown = !historyShown),
      house: () => (houseShown = !houseShown),
      carry: () => (carrying = true),
      keep: () => {
        historyShown = true;
        void history?.keep();
      }
    }),
    ...EVERY_STEP.flatMap(({ name }) => PARTS[name].commands(bench, sheet, tools[name]))
  ];
  const byId = new Map(commands.map((command) => [command.id, command]));
  const command = (id: string): Command => byId.get(id)!;
  onMount(() => hearKeys(commands, ({ step }) => step === undefined || step === bench.view.step));

  /** What the frame is in its job. */
  let choice = $state<FrameChoiceName>(untrack(() => frame.choice));
  async function choose(wanted: FrameChoiceName): Promise<void> {
    const before = choice;
    choice = wanted;
    try {
      await call(`/api/frames/${frame.id}`, { method: 'PATCH', body: { choice: wanted } });
    } catch (reason) {
      choice = before;
      trouble = (reason as Error).message;
    }
  }
  let trouble = $state('');

  $effect(() => room.follow());
  $effect(() => {
    if (sheet.pointer) room.pointerLeft = sheet.pointer[0] < sheet.size.width / 2;
  });
  onMount(() => {
    room.begin();
    const left = (): void => void (document.fullscreenElement === null && room.setAlone(false));
    document.addEventListener('fullscreenchange', left);
    return () => document.removeEventListener('fullscreenchange', left);
  });
  const beside = $derived(room.beside && !room.alone);
  const below = $derived(room.layout.deck === 'below' && !room.alone);

  async function leave(to: string): Promise<void> {
    await bench.saver.flush();
    keepPlace({ job: job.id, step: bench.view.step, place: sheet.kept() });
    await goto(`/frames/${to}`);
  }

  function settle(keep: 'mine' | 'theirs'): void {
    const other = bench.saver.resolve(keep);
    if (other) bench.adopt(other);
  }
</script>

<svelte:window
  bind:innerWidth={() => room.size.width, (width) => (room.size = { ...room.size, width })}
  bind:innerHeight={() => room.size.height, (height) => (room.size = { ...room.size, height })}
  onbeforeunload={(event) => {
    if (bench.saver.status.state === 'saving' || bench.saver.status.state === 'offline')
      event.preventDefault();
  }}
/>

<div
  class="flex h-screen flex-col overflow-hidden"
  data-testid="bench"
  data-deck={room.layout.deck}
  data-index={room.layout.index}
>
  {#snippet press(id: string, text: string, pressed?: boolean)}
    {@const { run, idle, label } = command(id)}
    <Button
      color="light"
      aria-label={/\w/.test(text) ? undefined : label}
      aria-pressed={pressed}
      disabled={(idle?.() ?? null) !== null}
      {...hint(tooltip(command(id)))}
      onclick={() => run(1)}>{text}</Button
    >
  {/snippet}
  {#if !room.alone}{@render band()}{/if}
  {#snippet band()}
    <header
      class="flex flex-none items-center gap-x-1.5 min-h-10 py-0 px-2.5 border-b border-b-line bg-panel max-[1200px]:flex-wrap"
    >
      <nav
        class="where flex items-baseline gap-1.75 mr-2.5 min-w-0 overflow-hidden whitespace-nowrap"
        aria-label="Where you are"
      >
        <a href="/">Jobs</a><span>/</span><a class="truncate" href={`/jobs/${job.id}`}>{job.name}</a><span
          >/</span
        >
        <h1 class="text-base">{frame.name}</h1>
      </nav>
      {@render press('previous', '‹')}
      {@render press('next', '›')}
      <span class="flex-1"></span>
      {#if bench.recipe.rendition !== RENDITION}
        <Button
          color="light"
          onclick={() => (anew = true)}
          {...hint(
            'This frame was finished in an earlier rendition, and stays in it until it is rendered anew'
          )}>Render anew…</Button
        >
      {/if}
      {@render press('undo', 'Undo')}
      {@render press('redo', 'Redo')}
      <HousePanel
        bind:open={houseShown}
        {bench}
        {sheet}
        carry={() => {
          houseShown = false;
          carrying = true;
        }}
      />
      <HistoryPanel bind:this={history} bind:open={historyShown} {bench} {sheet} />
      <span class="quiet min-w-15.5 text-sm" data-testid="save-state" {...hint(bench.saver.status.message)}
        >{trouble || SAVE_WORDS[bench.saver.status.state]}</span
      >
      <Button
        color="light"
        aria-pressed={bench.view.asShot}
        onpointerdown={() => (bench.view.asShot = true)}
        onpointerup={() => (bench.view.asShot = false)}
        onpointerleave={() => (bench.view.asShot = false)}
        {...hint(tooltip(command('as-shot')))}>As shot</Button
      >
      <CompareMenu {bench} {compare} frames={ready} {partners} />
      {@render press('index', 'Index', room.index)}
      {@render press('grid', 'Grid', bench.view.grid)}
      <ZoomControl {sheet} {command} />
      {@render press('find', 'Find…')}
      {@render press('help', '?')}
      <ViewMenu><DeckPlaces {room} /></ViewMenu>
      <Button {...hint(tooltip(command('export')))} onclick={() => (exporting = true)}>Export</Button>
    </header>
  {/snippet}
  {#snippet frames()}
    {#if room.layout.index && !room.alone}
      <FrameIndex
        job={job.id}
        current={frame.id}
        place={room.layout.index}
        open={(id) => void leave(id)}
        told={(row) => (choice = row.choice)}
      />
    {/if}
  {/snippet}
  {#snippet course()}
    <Course {bench} {choice} head={beside} choose={(wanted) => void choose(wanted)} />
  {/snippet}
  {#snippet deck()}
    <Deck {bench} {sheet} {tool} {job} {ready} />
  {/snippet}
  <div class="flex min-h-0 flex-1">
    {#if beside}
      <div
        class="board flex flex-none flex-col bg-paper"
        style:width={`${room.dragged.board}px`}
        role="region"
        aria-label="Deck"
      >
        {@render course()}
        <div class="flex min-h-0 flex-initial flex-col overflow-y-auto" data-testid="deck">
          {@render deck()}
        </div>
        <HistogramView {bench} {beside} />
      </div>
      <DeckEdge {room} />
    {/if}
    <div class="flex min-w-0 flex-1 flex-col">
      {#if room.layout.index === 'above'}{@render frames()}{/if}
      <div class="flex min-h-0 flex-1" style:padding-right={`${room.besideSheet}px`}>
        {#if !beside && !room.alone}{@render course()}{/if}
        {#key bench.recipe.rendition}<Sheet
            {bench}
            {sheet}
            {tool}
            {compare}
            alone={room.alone}
            {handles}
            neighbours={[next, previous].flatMap((other) => (other ? [other.id] : []))}
            onhistogram={bench.setHistogram}
          >
            {#snippet over()}
              {#if sheet.whole}
                <CropShape {bench} view={sheet.view} editable={bench.view.step === 'crop'} />
              {/if}
              {#if Overlay}<Overlay {bench} {sheet} {tool} />{/if}
            {/snippet}
          </Sheet>{/key}
      </div>
    </div>
    {#if room.layout.index === 'aside'}{@render frames()}{/if}
  </div>
  {#if !room.alone || room.readingsAlone}<ReadingsBar {bench} />{/if}
  {#if below}
    <DeckEdge {room} />
    <div
      class="flex flex-none bg-paper"
      style:height={`${room.dragged.below}px`}
      role="region"
      aria-label="Deck"
    >
      <div class="flex min-w-0 flex-1 overflow-y-auto" data-testid="deck">{@render deck()}</div>
      <HistogramView {bench} {beside} />
    </div>
  {/if}
</div>

<CarryStepsDialog bind:open={carrying} {bench} {job} {ready} />
<ExportDialog
  {bench}
  {job}
  bind:open={exporting}
  handOver={() => {
    exporting = false;
    handing = true;
  }}
/>
<HandOverDialog bind:open={handing} job={job.id} frames={[bench.frame]} before={() => bench.saver.flush()} />
<RenderAnew {bench} bind:open={anew} />
<ShortcutList bind:open={help} {commands} />
<CommandFinder bind:open={finding} {commands} />
<Modal
  title="Changed in another window"
  open={bench.saver.status.state === 'conflict'}
  size="sm"
  dismissable={false}
>
  <p>
    This frame was changed and saved in another window since you opened it here. Nothing is lost yet: choose
    which to go on with.
  </p>
  <div class="flex gap-2">
    <Button onclick={() => settle('mine')}>Keep mine</Button>
    <Button color="light" onclick={() => settle('theirs')}>Take the other</Button>
  </div>
</Modal>

<style>
  .where a:hover {
    text-decoration: underline;
  }
  .where span {
    color: var(--faint);
  }
</style>

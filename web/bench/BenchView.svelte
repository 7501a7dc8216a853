<!-- The bench: band, course and sheet, readings, deck. -->
<script lang="ts">
  import { onMount, untrack } from 'svelte';
  import { goto } from '$app/navigation';
  import { Button, Modal } from 'flowbite-svelte';
  import { call } from '$lib/call.ts';
  import { hearEvents } from '$lib/hear-events.ts';
  import type { FrameCard } from '$server/frames/frame-card.ts';
  import type { FrameChoice } from '$server/lenses/lens-choice.ts';
  import type { FrameEdges } from '$server/frames/frame-edges.ts';
  import type { FrameRow } from '$server/frames/frame-row.ts';
  import type { Job } from '$server/jobs/jobs.ts';
  import type { Histogram } from '../preview/messages.ts';
  import Course from './Course.svelte';
  import ExportDialog from './ExportDialog.svelte';
  import HistogramView from './HistogramView.svelte';
  import ReadingsBar from './ReadingsBar.svelte';
  import Sheet from './Sheet.svelte';
  import { EVERY_STEP } from '$core/recipe/steps.ts';
  import { createBench } from './bench-state.svelte.ts';
  import { nudgeCrop } from './crop-view.ts';
  import type { OtherFrame } from './deck.ts';
  import { DECKS } from './decks.ts';
  import { changeMarks, nudgeAngle, trueUpFromMarks } from './true-up.ts';

  interface Props {
    frame: FrameRow;
    job: Job;
    ready: OtherFrame[];
    choice: FrameChoice;
  }
  let { frame, job, ready, choice }: Props = $props();
  const bench = untrack(() => createBench(frame, choice));
  let sheet = $state<Sheet>()!;
  const Deck = $derived(DECKS[bench.view.step]);
  /** The stream's own losses are of no interest here: it comes again by itself. */
  const ignore = (): void => {};
  async function readEdges(): Promise<void> {
    const unmeasured: FrameEdges = {
      edges: [],
      lateral: null,
      reason: 'The edges could not be read. Reload the page.'
    };
    bench.setEdges(await call<FrameEdges>(`/api/frames/${frame.id}/edges`).catch(() => unmeasured));
  }
  onMount(() => {
    void readEdges();
    if (frame.measured) return;
    // They are measured after the frame can be opened.
    const deaf = hearEvents<{ cards: FrameCard[] }>(
      `/api/jobs/${job.id}/events`,
      ({ cards }) => {
        if (!cards.some((card) => card.frame.id === frame.id && card.frame.measured)) return;
        deaf();
        void readEdges();
      },
      ignore
    );
    return deaf;
  });
  let histogram = $state<Histogram | null>(null);
  let exporting = $state(false);
  let help = $state(false);

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
  const SHORTCUTS = [
    [EVERY_STEP.map((_, i) => i + 1).join(' '), 'Step'],
    ['A / D', 'Previous / next frame'],
    ['Q held', 'The frame as shot'],
    ['F', 'Fit or 1:1 at the pointer'],
    ['G', 'Grid'],
    ['T', 'True up from the marks'],
    ['Arrows', 'In Lines: roll (left, right) and pitch (up, down), Shift x10'],
    [', .', 'In Lines: yaw, Shift x10'],
    ['Arrows', 'In Crop: move it by a pixel, Shift by 10'],
    ['Drag outside', 'In Crop: turn the picture'],
    ['Delete', 'Remove the chosen lines'],
    ['Z / Shift Z', 'Undo / redo, with Ctrl'],
    ['Enter / Escape', 'End or drop the straight mark being drawn'],
    ['Arrows', 'In a number: nudge it (Shift x10, Alt /10)'],
    ['Wheel, drag', 'Move about at 1:1 (Alt-drag in Lines)'],
    ['?', 'These shortcuts']
  ];

  /** Keys of the Lines step: which angle they turn, and which way. */
  const NUDGES: Record<string, ['roll' | 'pitch' | 'yaw', 1 | -1]> = {
    arrowright: ['roll', 1],
    arrowleft: ['roll', -1],
    arrowup: ['pitch', 1],
    arrowdown: ['pitch', -1],
    '.': ['yaw', 1],
    ',': ['yaw', -1],
    '>': ['yaw', 1],
    '<': ['yaw', -1]
  };

  const CROP_NUDGES: Record<string, [number, number]> = {
    arrowright: [1, 0],
    arrowleft: [-1, 0],
    arrowup: [0, -1],
    arrowdown: [0, 1]
  };

  async function leave(to: string | undefined): Promise<void> {
    if (!to) return;
    await bench.saver.flush();
    await goto(`/frames/${to}`);
  }

  const typing = (target: EventTarget | null): boolean =>
    target instanceof HTMLElement &&
    (target.matches('input:not([type=checkbox]), select, textarea, [role=tab]') ||
      target.closest('dialog') !== null);

  function keydown(event: KeyboardEvent): void {
    if (typing(event.target)) return;
    const key = event.key.toLowerCase();
    if ((event.ctrlKey || event.metaKey) && key === 'z') {
      event.preventDefault();
      if (event.shiftKey) bench.redo();
      else bench.undo();
      return;
    }
    if (event.ctrlKey || event.metaKey || event.altKey) return;
    if (key === 'q') bench.view.asShot = true;
    else if (EVERY_STEP[Number(key) - 1]) bench.view.step = EVERY_STEP[Number(key) - 1].name;
    else if (key === 'a') void leave(previous?.id);
    else if (key === 'd') void leave(next?.id);
    else if (key === 'f') sheet.toggleZoom();
    else if (key === 'g') bench.view.grid = !bench.view.grid;
    else if (key === 't' && bench.recipe.lines.marks.length > 0) trueUpFromMarks(bench);
    else if (bench.view.step === 'lines' && NUDGES[key]) {
      const [name, direction] = NUDGES[key];
      nudgeAngle(bench, name, direction * 0.05 * (event.shiftKey ? 10 : 1));
    } else if (bench.view.step === 'crop' && CROP_NUDGES[key]) {
      const [dx, dy] = CROP_NUDGES[key];
      nudgeCrop(bench, dx * (event.shiftKey ? 10 : 1), dy * (event.shiftKey ? 10 : 1));
    } else if (bench.view.step === 'lines' && key === 'delete' && bench.view.chosen.length > 0)
      changeMarks(bench, bench.view.chosen, null);
    else if (key === 'enter' && bench.view.lensTool === 'curve') void sheet.endCurve();
    else if (key === 'escape' && bench.view.lensTool !== 'none') {
      sheet.dropCorners();
      bench.view.lensTool = 'none';
    } else if (key === 'escape' && bench.view.step === 'lines') {
      sheet.dropCorners();
      bench.view.chosen = [];
    } else if (key === '?') help = true;
    else return;
    event.preventDefault();
  }

  function keyup(event: KeyboardEvent): void {
    if (event.key.toLowerCase() === 'q') bench.view.asShot = false;
  }

  function settle(keep: 'mine' | 'theirs'): void {
    const other = bench.saver.resolve(keep);
    if (other) bench.adopt(other);
  }
</script>

<svelte:window
  onkeydown={keydown}
  onkeyup={keyup}
  onblur={() => (bench.view.asShot = false)}
  onbeforeunload={(event) => {
    if (bench.saver.status.state === 'saving' || bench.saver.status.state === 'offline')
      event.preventDefault();
  }}
/>

<div class="flex flex-col h-screen min-w-250 overflow-hidden">
  <header class="flex items-center gap-1.5 h-10 py-0 px-2.5 border-b border-b-line bg-panel">
    <nav
      class="where flex items-baseline gap-1.75 mr-2.5 min-w-0 whitespace-nowrap"
      aria-label="Where you are"
    >
      <a href="/">Jobs</a><span>/</span><a href={`/jobs/${job.id}`}>{job.name}</a><span>/</span>
      <h1 class="text-base">{frame.name}</h1>
    </nav>
    <Button color="light" disabled={!previous} onclick={() => leave(previous?.id)} title="Previous frame (A)"
      >‹ Previous</Button
    >
    <Button color="light" disabled={!next} onclick={() => leave(next?.id)} title="Next frame (D)"
      >Next ›</Button
    >
    <span class="flex-1"></span>
    <Button color="light" disabled={!bench.canUndo} onclick={bench.undo}>Undo</Button>
    <Button color="light" disabled={!bench.canRedo} onclick={bench.redo}>Redo</Button>
    <span class="quiet min-w-15.5 text-sm" data-testid="save-state" title={bench.saver.status.message}
      >{SAVE_WORDS[bench.saver.status.state]}</span
    >
    <Button
      color="light"
      aria-pressed={bench.view.asShot}
      onpointerdown={() => (bench.view.asShot = true)}
      onpointerup={() => (bench.view.asShot = false)}
      onpointerleave={() => (bench.view.asShot = false)}
      title="Hold to see the frame as shot (Q)">As shot</Button
    >
    <Button
      color="light"
      aria-pressed={bench.view.grid}
      onclick={() => (bench.view.grid = !bench.view.grid)}
      title="Grid (G)">Grid</Button
    >
    <Button
      color="light"
      aria-pressed={bench.view.zoom === '1:1'}
      onclick={() => sheet.toggleZoom()}
      title="Fit or 1:1 (F)"
    >
      {bench.view.zoom === 'fit' ? 'Fit' : '1:1'}
    </Button>
    <Button color="light" onclick={() => (help = true)} aria-label="Shortcuts">?</Button>
    <Button onclick={() => (exporting = true)}>Export</Button>
  </header>
  <div class="flex flex-1 min-h-0">
    <Course {bench} />
    <Sheet
      bind:this={sheet}
      {bench}
      neighbours={[next, previous].flatMap((other) => (other ? [other.id] : []))}
      onhistogram={(found) => (histogram = found)}
    />
  </div>
  <ReadingsBar {bench} />
  <div class="flex h-39 bg-paper" aria-label="Deck">
    <div class="columns flex flex-1 min-w-0">
      <Deck {bench} {sheet} {job} {ready} />
    </div>
    <HistogramView {histogram} />
  </div>
</div>

<ExportDialog {bench} bind:open={exporting} />
<Modal title="Shortcuts" bind:open={help} size="sm">
  <dl class="keys grid grid-cols-[120px_1fr] gap-y-1">
    {#each SHORTCUTS as [keys, what] (what)}
      <dt>{keys}</dt>
      <dd>{what}</dd>
    {/each}
  </dl>
</Modal>
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
  .columns :global(.column) {
    flex: 1 1 320px;
    min-width: 0;
    padding: 8px 16px;
    border-right: 1px solid var(--soft);
  }
  .columns :global(.column h2) {
    font-size: 12px;
    font-weight: 600;
    margin-bottom: 5px;
  }
  .keys dt {
    font-family: var(--font-mono);
  }
</style>

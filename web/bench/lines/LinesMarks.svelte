<!-- Lines step, True up: the marks, what each should be, and the correction that follows from them. -->
<script lang="ts">
  import { Button, Checkbox } from 'flowbite-svelte';
  import { angleFromTrue } from '$core/steps/lines/line-angles.ts';
  import { MARK_KINDS, type Mark, WEIGHTS, counts } from '$core/steps/lines/mark.ts';
  import { placeMarks } from '$core/render/readings/measure.ts';
  import NumberControl from '../controls/NumberControl.svelte';
  import type { SheetState } from '../sheet/sheet-state.svelte.ts';
  import type { Bench } from '../state/bench-state.svelte.ts';
  import { findLines, solveTogether, trueUpItself } from './find-lines.ts';
  import { changeMarks, focalTold, retyped, takenInOrOut, trueUpFromMarks } from './true-up.ts';
  import { type LinesTool, linesView } from './lines-view.svelte.ts';
  import TrueUpModeSelect from './TrueUpModeSelect.svelte';
  import { hint } from '../../lib/hints/hint.ts';

  let { bench, sheet, off }: { bench: Bench; sheet: SheetState; off: string | null } = $props();
  const mine = $derived(linesView(bench));
  const lines = $derived(bench.recipe.lines);
  const angles = $derived(
    new Map(placeMarks(lines.marks, bench.plan).map((placed) => [placed.id, angleFromTrue(placed)]))
  );
  const turned = $derived(lines.roll !== 0 || lines.pitch !== 0 || lines.yaw !== 0);
  const chosen = $derived(lines.marks.filter(({ id }) => mine.chosen.includes(id)));
  const focalKnown = $derived(focalTold(bench));
  const bowKnown = $derived(
    bench.profile && bench.profile.distortion.length > 0 && !bench.recipe.lens.solved
      ? 'The lens profile undoes the bow.'
      : null
  );
  const together = $derived((mine.solveFocal && focalKnown === null) || (mine.solveBow && bowKnown === null));
  const TOOLS: { tool: LinesTool; label: string; title: string }[] = [
    { tool: 'plumb', label: 'Plumb', title: 'Draw along an edge that should be plumb' },
    { tool: 'level', label: 'Level', title: 'Draw along an edge that should be level' },
    {
      tool: 'choose',
      label: 'Choose',
      title: 'Press on lines, or draw around several, to change them together'
    }
  ];
  const WEIGHT = { label: 'Weight', minimum: WEIGHTS[0], maximum: WEIGHTS[1], default: 1, step: 0.05 };

  const KIND_WORDS = { plumb: 'Plumb', level: 'Level', straight: 'Straight', none: 'Nothing' };

  const nameOf = (mark: Mark): string =>
    mark.kind === 'none' ? 'nothing' : mark.recedes ? `level, ${mark.recedes}` : mark.kind;
  const valueOf = (mark: Mark): string => {
    const angle = angles.get(mark.id);
    if (angle !== undefined) return `${(Math.round(angle * 100) / 100 || 0).toFixed(2)}°`;
    return mark.out ? 'out' : '–';
  };
  const forChosen = (change: ((mark: Mark) => Mark) | null): void => changeMarks(bench, mine.chosen, change);

  function fromMarks(): void {
    if (together) void solveTogether(bench, sheet);
    else trueUpFromMarks(bench);
  }
  function clear(): void {
    mine.chosen = [];
    bench.change('lines', { marks: [] });
  }
</script>

<section class="column" aria-label="Marks">
  <div class="flex gap-1.25 mb-1.5">
    {#each TOOLS as { tool, label, title } (tool)}
      <Button
        color="light"
        {...hint(title)}
        aria-pressed={mine.tool === tool}
        onclick={() => (mine.tool = tool)}>{label}</Button
      >
    {/each}
    <Button
      color="light"
      disabled={mine.finding}
      {...hint('Find straight edges and sort them, without truing up')}
      onclick={() => findLines(bench, sheet)}>Find</Button
    >
    <Button
      {...hint('Takes all lines away')}
      color="light"
      disabled={lines.marks.length === 0}
      onclick={clear}>Clear</Button
    >
  </div>
  {#if lines.marks.length === 0}
    <p class="quiet">Draw along two edges that should be plumb, one on each side.</p>
  {:else}
    <ul class="marks grid grid-cols-2 gap-x-3.5 max-h-22.5 beside:max-h-40 overflow-y-auto">
      {#each lines.marks as mark, i (mark.id)}
        <li
          class:idle={!counts(mark)}
          onpointerenter={() => (bench.view.lit = mark.id)}
          onpointerleave={() => (bench.view.lit = null)}
        >
          <Button
            color="alternative"
            class="ghost h-6 name border-0 p-0 text-sm aria-pressed:font-semibold aria-pressed:text-accent"
            aria-pressed={mine.chosen.includes(mark.id)}
            {...hint('Choose this line')}
            onclick={() =>
              (mine.chosen = mine.chosen.includes(mark.id)
                ? mine.chosen.filter((id) => id !== mark.id)
                : [...mine.chosen, mark.id])}>{i + 1} {nameOf(mark)}</Button
          >
          <span class="ml-auto">{valueOf(mark)}</span>
          <Button
            color="alternative"
            class="ghost h-6 w-6 flex-none border-0 p-0"
            aria-label={`Remove mark ${i + 1}`}
            {...hint('Remove')}
            onclick={() => changeMarks(bench, [mark.id], null)}>×</Button
          >
        </li>
      {/each}
    </ul>
  {/if}
</section>
<section class="column flex-none" aria-label="Chosen lines">
  <h2>{chosen.length === 0 ? 'No line chosen' : `${chosen.length} chosen, as`}</h2>
  <div class="flex gap-1.25 mb-1.5">
    {#each MARK_KINDS as kind (kind)}
      <Button
        class="h-6.25 px-1.75"
        color="light"
        disabled={chosen.length === 0}
        aria-pressed={chosen.length > 0 && chosen.every((mark) => mark.kind === kind && !mark.recedes)}
        onclick={() => forChosen(retyped(kind))}>{KIND_WORDS[kind]}</Button
      >
    {/each}
  </div>
  <div class="flex gap-1.25 mb-1.5">
    <Button
      {...hint('Whether the chosen lines count')}
      class="h-6.25 px-1.75"
      color="light"
      disabled={chosen.length === 0}
      onclick={() => forChosen((mark) => takenInOrOut(bench, mark))}>In or out</Button
    >
    <Button
      {...hint('Takes the chosen lines away (Delete)')}
      class="h-6.25 px-1.75"
      color="light"
      disabled={chosen.length === 0}
      onclick={() => forChosen(null)}>Remove</Button
    >
  </div>
  <NumberControl
    setting={WEIGHT}
    value={chosen[0]?.weight ?? 1}
    idle={chosen.length === 0 ? 'Choose lines first, with Choose or in the list.' : null}
    change={(weight) => forChosen((mark) => ({ ...mark, weight }))}
  />
</section>
<section class="column flex-[0_1_290px]" aria-label="True up">
  <div class="flex gap-1.25 mb-1.5">
    <Button
      disabled={off !== null || mine.finding}
      {...hint('Find lines and true up from them')}
      onclick={() => trueUpItself(bench, sheet)}>By itself</Button
    >
    <Button
      color="light"
      disabled={lines.marks.length === 0 || off !== null || mine.finding}
      {...hint(lines.marks.length === 0 ? 'Draw lines first' : 'Solve the correction from the marks (T)')}
      onclick={fromMarks}>From marks</Button
    >
    <Button
      {...hint('The picture as it leaned; the lines stay')}
      color="light"
      disabled={!turned}
      onclick={() => bench.change('lines', { roll: 0, pitch: 0, yaw: 0 })}>Undo turn</Button
    >
  </div>
  <div class="options flex gap-1.25 mb-1.5 items-center text-sm">
    <TrueUpModeSelect bind:mode={mine.mode} />
    <Checkbox
      {...hint(focalKnown ?? 'Solve the focal length from the marks, too')}
      bind:checked={mine.solveFocal}
      disabled={focalKnown !== null}>solve focal length</Checkbox
    >
  </div>
  <Checkbox
    {...hint(bowKnown ?? 'Solve the bow of the lens from the marks, too')}
    bind:checked={mine.solveBow}
    disabled={bowKnown !== null}>solve the bow of the lens</Checkbox
  >
  <p class="said text-sm leading-[1.35] max-h-16.5 overflow-y-auto" role="status">
    {mine.finding ? 'Looking for lines…' : mine.said}
  </p>
</section>

<style>
  .marks li {
    display: flex;
    align-items: center;
    gap: 6px;
    height: 24px;
    font-size: 12px;
  }
  .marks li:hover {
    background: var(--soft);
  }
  .idle {
    color: var(--faint);
  }
</style>

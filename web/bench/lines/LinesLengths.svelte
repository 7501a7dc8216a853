<!-- Lines step, Lengths: a rectangle of known proportions, and lengths on the trued front. -->
<script lang="ts">
  import { saveFile } from '$lib/save-file.ts';
  import { Button, Input, Select } from 'flowbite-svelte';
  import {
    LENGTH_UNITS,
    decimalsFor,
    lengthsCsv,
    measureLengths
  } from '$core/steps/lines/measure-lengths.ts';
  import type { Bench } from '../state/bench-state.svelte.ts';
  import { correctForRectangle } from './true-up.ts';
  import { linesView } from './lines-view.svelte.ts';
  import { hint } from '../../lib/hints/hint.ts';

  let { bench, off }: { bench: Bench; off: string | null } = $props();
  const mine = $derived(linesView(bench));
  const lines = $derived(bench.recipe.lines);
  const rectangle = $derived(lines.rectangle);
  const reading = $derived(bench.readings.rectangle);
  const lengths = $derived(measureLengths(lines.measures, bench.plan.projection));
  const byId = $derived(new Map(lengths?.map((length) => [length.id, length])));
  const square = $derived(lines.yaw !== 0 || lines.pitch !== 0);
  let width = $state(3);
  let height = $state(4);

  function setRatio(): void {
    if (rectangle && width > 0 && height > 0)
      bench.change('lines', { rectangle: { ...rectangle, ratio: width / height } });
  }
  function setKnown(id: string, text: string): void {
    const known = Number(text.replace(',', '.'));
    const measures = lines.measures.map(({ known: _known, ...rest }) =>
      rest.id === id && known > 0 ? { ...rest, known } : rest
    );
    bench.change('lines', { measures });
  }
  function saveCsv(): void {
    const name = bench.frame.name.replace(/\.[^.]+$/, '');
    saveFile(`${name}-lengths.csv`, lengthsCsv(lengths!, lines.unit), 'text/csv');
  }
</script>

<section class="column" aria-label="Known rectangle">
  <h2>Known rectangle</h2>
  <div class="flex items-center gap-1.5 mb-1.5">
    <Button
      color="light"
      aria-pressed={mine.tool === 'rectangle'}
      {...hint('Press on the four corners of a door, a window or a sheet of paper')}
      onclick={() => (mine.tool = 'rectangle')}>Mark corners</Button
    >
    <Input
      class="small w-16!"
      aria-label="Width"
      type="number"
      min="0.01"
      step="any"
      bind:value={width}
      onchange={setRatio}
    />
    :
    <Input
      class="small w-16!"
      aria-label="Height"
      type="number"
      min="0.01"
      step="any"
      bind:value={height}
      onchange={setRatio}
    />
  </div>
  <p class="text-sm leading-[1.35] mb-1.5 max-h-8.5 overflow-y-auto" role="status">
    {#if mine.said}
      {mine.said}
    {:else if !rectangle}
      Press on the four corners of something whose width and height you know.
    {:else if reading}
      Comes out {reading.measured.toFixed(4)} for {rectangle.ratio.toFixed(4)}:
      {Math.abs(reading.error).toFixed(2)} % too {reading.error > 0 ? 'wide' : 'narrow'}.
    {/if}
  </p>
  <div class="flex items-center gap-1.5 mb-1.5">
    <Button
      {...hint('Stretches the height until the rectangle is as wide as it is said to be')}
      color="light"
      disabled={!rectangle || off !== null}
      onclick={() => rectangle && correctForRectangle(bench, rectangle)}>Correct for it</Button
    >
    <Button
      {...hint('Takes the corners away')}
      color="light"
      disabled={!rectangle}
      onclick={() => {
        mine.said = '';
        bench.change('lines', { rectangle: null });
      }}>Remove</Button
    >
  </div>
</section>
<section class="column" aria-label="Lengths">
  <div class="flex items-center gap-1.5 mb-1.5">
    <Button
      color="light"
      aria-pressed={mine.tool === 'length'}
      {...hint('Draw along what is to be measured, on the front that was trued up')}
      onclick={() => (mine.tool = 'length')}>Length</Button
    >
    <Select
      placeholder=""
      aria-label="Unit"
      value={lines.unit}
      onchange={(e) => bench.change('lines', { unit: e.currentTarget.value as typeof lines.unit })}
    >
      {#each LENGTH_UNITS as unit (unit)}<option>{unit}</option>{/each}
    </Select>
    <Button
      color="light"
      disabled={!lengths}
      {...hint(lengths ? '' : 'Give one length first')}
      onclick={saveCsv}>Save CSV</Button
    >
    <Button
      {...hint('Takes all lengths away')}
      color="light"
      disabled={lines.measures.length === 0}
      onclick={() => bench.change('lines', { measures: [] })}>Clear</Button
    >
  </div>
  {#if lines.measures.length === 0}
    <p class="text-sm leading-[1.35] mb-1.5 max-h-8.5 overflow-y-auto">
      {square
        ? 'Draw along a length that you know on this front, then along others.'
        : 'True up a whole front first: lengths hold on the plane that faces you.'}
    </p>
  {:else}
    <ul
      class="lengths grid grid-cols-2 beside:grid-cols-1 gap-x-2.5 max-h-23 beside:max-h-60 overflow-y-auto text-sm"
    >
      {#each lines.measures as measure, i (measure.id)}
        {@const found = byId.get(measure.id)}
        <li
          onpointerenter={() => (bench.view.lit = measure.id)}
          onpointerleave={() => (bench.view.lit = null)}
        >
          <span>{i + 1}</span>
          {#if found && !found.known}
            <span class="value font-semibold whitespace-nowrap"
              >{found.length.toFixed(decimalsFor(found.uncertainty))} ± {found.uncertainty.toFixed(
                decimalsFor(found.uncertainty)
              )}
              {lines.unit}</span
            >
          {/if}
          <Input
            class="small w-16!"
            aria-label={`Known length ${i + 1}`}
            placeholder="known?"
            value={measure.known ?? ''}
            onchange={(e) => setKnown(measure.id, e.currentTarget.value)}
          />
          <Button
            color="alternative"
            class="ghost h-6 w-6 flex-none border-0 p-0"
            aria-label={`Remove length ${i + 1}`}
            onclick={() =>
              bench.change('lines', { measures: lines.measures.filter(({ id }) => id !== measure.id) })}
            >×</Button
          >
        </li>
      {/each}
    </ul>
  {/if}
</section>

<style>
  .lengths li {
    display: flex;
    align-items: center;
    gap: 7px;
    height: 28px;
  }
</style>

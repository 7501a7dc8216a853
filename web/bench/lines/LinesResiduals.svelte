<!-- Lines step, Residuals: what is left of each line over where it stands. A slope tells of tilt, a curve of lens bow. -->
<script lang="ts">
  import { type PlacedLine, angleFromTrue, lineAngles } from '$core/steps/lines/line-angles.ts';
  import { placeMarks } from '$core/render/readings/measure.ts';
  import ResidualPlot from './ResidualPlot.svelte';
  import type { Bench } from '../state/bench-state.svelte.ts';

  let { bench }: { bench: Bench } = $props();
  const placed = $derived(placeMarks(bench.recipe.lines.marks, bench.plan));
  const crop = $derived(bench.plan.crop);
  const residuals = (kind: PlacedLine['kind']) =>
    placed
      .filter((line) => line.kind === kind)
      .map((line) => ({
        id: line.id,
        // In percent of the crop from its middle.
        at:
          kind === 'plumb'
            ? (100 * ((line.a[0] + line.b[0]) / 2 - crop.x)) / crop.width
            : (-100 * ((line.a[1] + line.b[1]) / 2 - crop.y)) / crop.height,
        angle: angleFromTrue(line)
      }));
  const GROUPS = [
    { kind: 'plumb', title: 'Plumb lines', across: 'left to right, % of the crop' },
    { kind: 'level', title: 'Level lines', across: 'below to above, % of the crop' }
  ] as const;
</script>

{#each GROUPS as { kind, title, across } (kind)}
  {@const found = lineAngles(placed, kind)}
  <section class={['column py-1 px-2', found && 'beside:p-0!']} aria-label={title}>
    {#if found}
      <ResidualPlot
        title={`${title}: ${found.rms.toFixed(2)}° RMS, ${found.count}`}
        {across}
        points={residuals(kind)}
        lit={bench.view.lit}
        hovered={(id) => (bench.view.lit = id)}
      />
    {:else}
      <h2>{title}</h2>
      <p class="quiet">No {kind} lines yet. Find or draw them on the page True up.</p>
    {/if}
  </section>
{/each}

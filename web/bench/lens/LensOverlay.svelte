<!-- Everything of the Lens step that lies over the picture: straight marks, edges on offer, and the mark being drawn. -->
<script lang="ts">
  import type { OverlayProps } from '../parts/step-parts.ts';
  import CurveShape from './CurveShape.svelte';
  import type { LensToolState } from './lens-tool.svelte.ts';

  let { bench, sheet, tool }: OverlayProps<LensToolState> = $props();
  const bow = $derived(bench.view.lensPage === 'bow');
  const free = $derived(bench.view.lensTool === 'none');

  function take(id: string): void {
    const taken = bench.view.offered.find((curve) => curve.id === id);
    bench.view.offered = bench.view.offered.filter((curve) => curve.id !== id);
    if (taken) bench.addCurves([taken.points]);
  }
</script>

{#if bow}
  {#each bench.view.offered as { id, points } (id)}
    <CurveShape
      points={sheet.toPlaces(points)}
      offered
      lit={false}
      listening={free}
      pressed={() => take(id)}
      hovered={() => {}}
    />
  {/each}
  {#each bench.recipe.lens.curves as { id, points } (id)}
    <CurveShape
      points={sheet.toPlaces(points)}
      lit={bench.view.litMark === id}
      listening={free}
      pressed={() => {}}
      hovered={(inside) => (bench.view.litMark = inside ? id : null)}
    />
  {/each}
{/if}
{#if tool.corners.length > 0}
  <CurveShape
    points={sheet.pointer ? [...tool.corners, sheet.pointer] : [...tool.corners]}
    lit
    pressed={() => {}}
    hovered={() => {}}
    listening={false}
  />
{/if}

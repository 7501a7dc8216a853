<!-- Everything of the Lens step that lies over the picture: straight marks, edges on offer, and the mark being drawn. -->
<script lang="ts">
  import type { OverlayProps } from '../parts/step-parts.ts';
  import CurveShape from './CurveShape.svelte';
  import type { LensToolState } from './lens-tool.svelte.ts';
  import { addCurves } from './straighten.ts';
  import { lensView } from './lens-view.svelte.ts';

  let { bench, sheet, tool }: OverlayProps<LensToolState> = $props();
  const mine = $derived(lensView(bench));
  const bow = $derived(mine.page === 'bow');
  const free = $derived(mine.tool === 'none');

  function take(id: string): void {
    const taken = mine.offered.find((curve) => curve.id === id);
    mine.offered = mine.offered.filter((curve) => curve.id !== id);
    if (taken) addCurves(bench, [taken.points]);
  }
</script>

{#if bow}
  {#each mine.offered as { id, points } (id)}
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
      lit={bench.view.lit === id}
      listening={free}
      pressed={() => {}}
      hovered={(inside) => (bench.view.lit = inside ? id : null)}
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

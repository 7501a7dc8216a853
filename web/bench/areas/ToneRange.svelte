<!-- A range of tones over those of the shape that it is part of; its ends are dragged, or typed below. -->
<script lang="ts">
  import { STOPS } from '$core/steps/areas/parts/ranges.ts';
  import { maskSpecOf } from '$core/steps/areas/shape.ts';
  import type { Shape } from '$core/steps/areas/shape.ts';
  import type { SheetState } from '../sheet/sheet-state.svelte.ts';
  import CoveredTones from './CoveredTones.svelte';

  interface Props {
    sheet: SheetState;
    /** The shape without the range. */
    shape: Shape;
    range: { low: number; high: number; fade: number };
    change: (own: { low: number } | { high: number }, moving: boolean) => void;
  }
  let { sheet, shape, range, change }: Props = $props();
  const SPAN = STOPS[1] - STOPS[0];
  const place = (stops: number): number => (stops - STOPS[0]) / SPAN;
  let counts = $state.raw<number[]>([]);
  /** What the range itself is does not change what it is laid over. */
  const asked = $derived(JSON.stringify(maskSpecOf(shape)));
  $effect(() => {
    if (!sheet.opened) return;
    const mask = JSON.parse(asked) as ReturnType<typeof maskSpecOf>;
    void sheet.preview?.ask<'covered'>({ kind: 'covered', mask }).then((found) => (counts = found));
  });
</script>

<CoveredTones
  {counts}
  ends={[place(range.low), place(range.high)]}
  fade={range.fade / SPAN}
  move={(end, to, moving) => {
    const stops = Math.round((STOPS[0] + to * SPAN) * 10) / 10;
    change(end === 0 ? { low: stops } : { high: stops }, moving);
  }}
/>

/** The other picture that the sheet's is compared with: drawn for the view in which the same part of the frame lies in the middle. */
import { untrack } from 'svelte';
import type { Point } from '$core/math/frame-geometry.ts';
import type { View } from '$core/picture/tile/mesh.ts';
import type { Drawn } from '../../preview/preview.ts';
import type { Compare } from '../compare/compare-state.svelte.ts';
import type { Bench } from '../state/bench-state.svelte.ts';
import type { SheetState } from './sheet-state.svelte.ts';
import { type Placed, boxOnSheet, placedBy, shiftBetween } from './sheet-view.ts';

const moved = (of: View, [x, y]: Point, by: 1 | -1): View => ({
  ...of,
  left: of.left + by * x,
  top: of.top + by * y
});

/** `drawn`: what the sheet's own picture is drawn for. To be made while a component is. */
export function createOtherPicture(bench: Bench, sheet: SheetState, compare: Compare, drawn: () => View) {
  let picture = $state.raw<Drawn | null>(null);
  let count = $state(0);
  /** By how much it lies elsewhere in the upright plane, where its lines are not those of the sheet. */
  let shift = $state.raw<Point>([0, 0]);
  let ordered: { view: View; shift: Point } | null = null;
  $effect(() => {
    const { inputs } = compare;
    // While a control moves the other stays as it was: it may hang on what moves.
    if (!sheet.opened || !inputs || bench.view.moving) return;
    const { plan } = bench.shown;
    const by = shiftBetween(sheet.view, plan.projection, inputs.plan.projection);
    const view = moved($state.snapshot(drawn()) as View, by, 1);
    untrack(() => {
      ordered = { view, shift: by };
      sheet.preview?.draw({ target: 'other', stages: inputs.stages, view, draft: false });
    });
  });
  const placed = $derived(placedBy(moved(picture?.view ?? drawn(), shift, -1), sheet.view));
  /** Its own crop; that of the sheet, where it is another frame's. */
  const box = $derived(
    compare.inputs
      ? boxOnSheet(compare.inputs.plan.crop, moved(sheet.view, shift, 1))
      : boxOnSheet(bench.shown.plan.crop, sheet.view)
  );
  return {
    get picture() {
      return picture;
    },
    /** How many there were. */
    get count() {
      return count;
    },
    get shift() {
      return shift;
    },
    get placed(): Placed {
      return placed;
    },
    get box(): Placed {
      return box;
    },
    took(next: Drawn): void {
      picture = next;
      if (ordered?.view === next.view) shift = ordered.shift;
      count++;
    }
  };
}

/** What the pointer does on the sheet in the Crop step: a drag outside the crop turns the picture about its middle. */
import type { Point } from '$core/math/frame-geometry.ts';
import type { Bench } from '../state/bench-state.svelte.ts';
import { type SheetState } from '../sheet/sheet-state.svelte.ts';
import type { SheetTool } from '../sheet/sheet-tool.ts';
import { boxOnSheet } from '../sheet/sheet-view.ts';
import { HANDLE_OUT } from './crop-handles.ts';

/** A press this near to the crop, in pixels, is meant for its handles, which reach no farther out. */
const BESIDE = HANDLE_OUT;
/** Degrees to either side that a drag can turn. */
const MOST = 45;

export function createCropTool(bench: Bench, sheet: SheetState): SheetTool {
  let turning: { from: number; roll: number } | null = null;
  const box = $derived(boxOnSheet(bench.plan.crop, sheet.view));
  const isOutside = ([x, y]: Point): boolean =>
    x < box.left - BESIDE ||
    y < box.top - BESIDE ||
    x > box.left + box.width + BESIDE ||
    y > box.top + box.height + BESIDE;
  const angleOf = ([x, y]: Point): number =>
    (Math.atan2(y - box.top - box.height / 2, x - box.left - box.width / 2) * 180) / Math.PI;

  return {
    cursor: '',
    magnified: null,
    down({ place, empty }) {
      if (!empty || !isOutside(place)) return false;
      turning = { from: angleOf(place), roll: bench.recipe.lines.roll };
      return true;
    },
    move(place) {
      if (!turning) return;
      const roll = turning.roll + angleOf(place) - turning.from;
      const turned = Math.round((((roll + 540) % 360) - 180) * 100) / 100;
      if (Math.abs(turned) <= MOST) bench.change('lines', { roll: turned, enabled: true }, true);
    },
    up() {
      if (turning) bench.commit();
      turning = null;
    },
    drop() {
      if (turning) bench.commit();
      turning = null;
    }
  };
}

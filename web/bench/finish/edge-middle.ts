/** The middle of the darkened edge, and the line at which it begins, on the sheet. */
import type { Point } from '$core/math/frame-geometry.ts';
import { type EdgeData, edgeStage } from '$core/steps/finish/edge/edge-stage.ts';
import type { Bench } from '../state/bench-state.svelte.ts';
import type { SheetState } from '../sheet/sheet-state.svelte.ts';
import { boxOnSheet } from '../sheet/sheet-view.ts';

/** Points round the line. */
const ROUND = 96;

/** What the edge is drawn by; null where it changes nothing. */
export const edgeOf = (bench: Bench): EdgeData | null =>
  edgeStage.prepare({ recipe: bench.recipe, plan: bench.plan });

/** A place in halves of the crop from its middle, on the sheet. */
function placeIn(bench: Bench, sheet: SheetState, [x, y]: Point): Point {
  const { left, top, width, height } = boxOnSheet(bench.plan.crop, sheet.view);
  return [left + ((x + 1) / 2) * width, top + ((y + 1) / 2) * height];
}

export const middleOnSheet = (bench: Bench, sheet: SheetState): Point =>
  placeIn(bench, sheet, [bench.recipe.finish.edgeX / 100, bench.recipe.finish.edgeY / 100]);

/** The superellipse of a radius about the middle. */
export const ringOnSheet = (
  bench: Bench,
  sheet: SheetState,
  { middle, power }: EdgeData,
  radius: number
): Point[] =>
  Array.from({ length: ROUND }, (_, i) => {
    const turn = (2 * Math.PI * i) / ROUND;
    const [cos, sin] = [Math.cos(turn), Math.sin(turn)];
    const bent = (of: number): number => Math.sign(of) * Math.abs(of) ** (2 / power);
    return placeIn(bench, sheet, [middle[0] + radius * bent(cos), middle[1] + radius * bent(sin)]);
  });

/** Moves the middle to a place of the sheet, within the crop. */
export function moveMiddle(bench: Bench, sheet: SheetState, place: Point, moving: boolean): void {
  const { left, top, width, height } = boxOnSheet(bench.plan.crop, sheet.view);
  const percent = (share: number): number => Math.round(100 * Math.min(1, Math.max(-1, 2 * share - 1)));
  bench.change(
    'finish',
    { edgeX: percent((place[0] - left) / width), edgeY: percent((place[1] - top) / height) },
    moving
  );
}

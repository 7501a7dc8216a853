/** Questions that the Lines step has to the picture itself: its lines, and the edges under the marks. */
import { counts } from '$core/steps/lines/mark.ts';
import type { TracedMark } from '$core/steps/lines/solve-together.ts';
import type { TrueUpItself } from '$core/steps/lines/true-up-itself.ts';
import type { Bench } from '../state/bench-state.svelte.ts';
import { followed } from '../sheet/follow-edge.ts';
import type { SheetState } from '../sheet/sheet-state.svelte.ts';
import { focalTold, showFoundLines, solveMarksTogether, takeFoundLines } from './true-up.ts';
import { linesView } from './lines-view.svelte.ts';

async function lookForLines(bench: Bench, { preview }: SheetState): Promise<TrueUpItself | null> {
  if (!preview || linesView(bench).finding) return null;
  linesView(bench).finding = true;
  const { model } = bench.plan.projection;
  const found = await preview.ask<'lines'>({
    kind: 'lines',
    // A plain copy: what is reactive cannot be sent to a worker.
    model: structuredClone(model),
    focal: bench.optics.focal,
    focalKnown: focalTold(bench) !== null
  });
  linesView(bench).finding = false;
  return found;
}

/** Finds plumb and level lines by itself and trues up from them, or says why not. */
export async function trueUpItself(bench: Bench, sheet: SheetState): Promise<void> {
  const found = await lookForLines(bench, sheet);
  if (found) takeFoundLines(bench, found);
}

/** Finds lines and shows them as marks. */
export async function findLines(bench: Bench, sheet: SheetState): Promise<void> {
  const found = await lookForLines(bench, sheet);
  if (found) showFoundLines(bench, found);
}

/** Trues up from the marks with focal length or bow solved as well: the edges under the marks are traced for it. */
export async function solveTogether(bench: Bench, sheet: SheetState): Promise<void> {
  const { preview } = sheet;
  if (!preview || linesView(bench).finding) return;
  linesView(bench).finding = true;
  const traced: TracedMark[] = [];
  for (const mark of bench.recipe.lines.marks.filter(counts)) {
    const ends = sheet.toPlaces([mark.a, mark.b]);
    const polyline = ends.length === 2 ? followed(ends, sheet.toField) : [];
    const points = polyline.length > 1 ? await preview.ask<'trace'>({ kind: 'trace', polyline }) : [];
    traced.push({ mark, points: points.length >= 8 ? points : [mark.a, mark.b] });
  }
  linesView(bench).finding = false;
  solveMarksTogether(bench, traced);
}

/** Places that are picked as grey: their mean is made neutral, and how far each is from it is told. */
import type { Point } from '$core/math/frame-geometry.ts';
import type { Vector3 } from '$core/math/vector3.ts';
import { neutralised } from '$core/steps/colour/balance-by-itself.ts';
import { MOST_NEUTRALS } from '$core/steps/colour/step.ts';
import type { Bench } from '../state/bench-state.svelte.ts';
import type { SheetState } from '../sheet/sheet-state.svelte.ts';
import { colourView } from './colour-view.svelte.ts';

/** Light beyond these tells no colour: it is clipped, or drowned in noise. */
const LIGHTEST = 0.97;
const DARKEST = 0.003;

/** Mean working colour about a place of the frame, as shot. */
export const colourAt = async (sheet: SheetState, at: Point): Promise<Vector3 | null> =>
  (await sheet.preview?.ask<'colour'>({ kind: 'colour', at })) ?? null;

/** Why a colour cannot be made neutral, or nothing. */
function refusal(colour: Vector3): string {
  if (Math.max(...colour) > LIGHTEST)
    return 'It is too light there: a colour is clipped. Pick a darker place that should be grey.';
  if (Math.min(...colour) < DARKEST)
    return 'It is too dark there to tell a colour. Pick a lighter place that should be grey.';
  return '';
}

/** Makes the mean of the places neutral; the newest is left out again where it tells no colour. */
export async function pickNeutral(
  bench: Bench,
  sheet: SheetState,
  at: Point,
  another: boolean
): Promise<void> {
  const picked = await colourAt(sheet, at);
  colourView(bench).tool = 'none';
  if (!picked) return;
  colourView(bench).said = refusal(picked);
  if (colourView(bench).said) return;
  const before = another ? bench.recipe.colour.neutrals : [];
  const neutrals = [...before, at].slice(-MOST_NEUTRALS);
  const colours = await Promise.all(neutrals.map((place) => colourAt(sheet, place)));
  const mean = [0, 0, 0] as Vector3;
  // Each counts alike, however light it is.
  for (const colour of colours)
    if (colour) for (let c = 0; c < 3; c++) mean[c] += colour[c] / (colour[0] + colour[1] + colour[2]);
  const { settings, reached } = neutralised(bench.facts, mean);
  bench.change('colour', { ...settings, neutrals, enabled: true });
  colourView(bench).said = reached
    ? ''
    : 'That place is too colourful to be a grey: it is as near to it as the sliders reach.';
}

/** The colours of the places that are picked now, as shot: what the reading of them is taken from. */
export async function readGreys(places: readonly Point[], sheet: SheetState): Promise<Vector3[]> {
  const colours = await Promise.all(places.map((place) => colourAt(sheet, place)));
  return colours.filter((colour) => colour !== null);
}

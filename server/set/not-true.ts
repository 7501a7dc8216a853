/** What of a frame's lines a client would see: named before a delivery. */
import type { PartialRecipe } from '../../core/recipe/recipe.ts';
import { type LineReadings, isBeyond, leansOnPurpose } from './line-readings.ts';

/** Half a degree, and a pixel: beyond, it is seen beside a window's edge. */
const MOST_LEAN = 0.5;
const MOST_BOW = 1;

/** How a frame leans and bows beyond what passes, in words; empty where it is true, leans on purpose, or nothing tells. */
export function notTrue({ plumb, straight }: LineReadings, recipe: PartialRecipe): string[] {
  const leans = isBeyond(plumb, MOST_LEAN) && !leansOnPurpose(recipe);
  return [
    ...(leans ? [`leans by ${plumb!.rms.toFixed(1)}°`] : []),
    ...(isBeyond(straight, MOST_BOW) ? [`bows by ${straight!.rms.toFixed(1)} px`] : [])
  ];
}

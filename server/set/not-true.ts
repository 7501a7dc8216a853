/** What of a frame's lines a client would see: named before a delivery. */
import type { PartialRecipe } from '../../core/recipe/recipe.ts';
import type { LineReadings } from './line-readings.ts';

/** Half a degree, and a pixel: beyond, it is seen beside a window's edge. */
const MOST_LEAN = 0.5;
const MOST_BOW = 1;

/** How a frame leans and bows beyond what passes, in words; empty where it is true, leans on purpose, or nothing tells. */
export function notTrue({ plumb, straight }: LineReadings, { lines }: PartialRecipe): string[] {
  const beyond = (reading: { rms: number; found?: { error: number } } | null, most: number): boolean =>
    reading !== null && reading.rms - (reading.found?.error ?? 0) > most;
  const onPurpose = (lines?.holdBackPitch ?? 0) !== 0 || (lines?.holdBackRoll ?? 0) !== 0;
  return [
    ...(beyond(plumb, MOST_LEAN) && !onPurpose ? [`leans by ${plumb!.rms.toFixed(1)}°`] : []),
    ...(beyond(straight, MOST_BOW) ? [`bows by ${straight!.rms.toFixed(1)} px`] : [])
  ];
}

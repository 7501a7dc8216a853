/** Red, green and blue of sRGB put elsewhere, with white where it was: as a matrix of linear colours. */
import { REC2020_TO_SRGB } from '../../colour/primaries.ts';
import { type Matrix3, apply, invert3, multiply } from '../../math/matrix3.ts';
import type { Vector3 } from '../../math/vector3.ts';
import type { ColourSettings } from './step.ts';

/** Share of the way to the next primary that 100 turns by, and by how much 100 strengthens. */
const FULL_HUE = 0.25;
const FULL_SATURATION = 0.4;

const NAMES = ['red', 'green', 'blue'] as const;

export const movesPrimaries = (settings: ColourSettings): boolean =>
  NAMES.some((name) => settings[`${name}Hue`] !== 0 || settings[`${name}Saturation`] !== 0);

/** Shares of red, green and blue that a primary becomes. */
function moved(i: number, hue: number, saturation: number): Vector3 {
  const turn = (hue / 100) * FULL_HUE;
  const place: Vector3 = [0, 0, 0];
  place[i] = 1 - Math.abs(turn);
  // Above zero red goes to green, green to blue, blue to red.
  place[(i + (turn > 0 ? 1 : 2)) % 3] = Math.abs(turn);
  const strength = 1 + (saturation / 100) * FULL_SATURATION;
  return place.map((share) => 1 / 3 + (share - 1 / 3) * strength) as Vector3;
}

/** Working colours to those of the moved primaries. */
export function primariesMatrix(settings: ColourSettings): Matrix3 {
  const places = NAMES.map((name, i) => moved(i, settings[`${name}Hue`], settings[`${name}Saturation`]));
  const columns = [0, 1, 2].flatMap((row) => places.map((place) => place[row])) as unknown as Matrix3;
  // As much of each as together is white.
  const scales = apply(invert3(columns), [1, 1, 1]);
  const scaled = columns.map((value, i) => value * scales[i % 3]) as unknown as Matrix3;
  return multiply(invert3(REC2020_TO_SRGB), multiply(scaled, REC2020_TO_SRGB));
}

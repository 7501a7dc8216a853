import { type OutputSpace, RGB_SPACES, betweenSpaces } from '$core/colour/rgb-spaces.ts';
import { srgbDecode, srgbEncode } from '$core/colour/srgb-transfer.ts';
import { apply } from '$core/math/matrix3.ts';
import type { Vector3 } from '$core/math/vector3.ts';

/** What screens show: both spaces have one transfer function. */
export type ScreenSpace = Extract<OutputSpace, 'srgb' | 'display-p3'>;

/** A colour as a screen of a space shows it, in sRGB's encoded values; those that sRGB lacks at its edge. */
export function inSrgb(colour: Vector3, space: ScreenSpace): Vector3 {
  if (space === 'srgb') return colour;
  const linear = apply(betweenSpaces(RGB_SPACES[space], RGB_SPACES.srgb), colour.map(srgbDecode) as Vector3);
  return linear.map((value) => srgbEncode(Math.min(1, Math.max(0, value)))) as Vector3;
}

import type { Vector3 } from '../../math/vector3.ts';

/**
 * How light a colour counts for tone: the sum of the cubes of its parts by that of their squares, in linear sRGB. A grey counts as
 * it is, and a strong colour nearly as its largest part, so that a lift of the midtones does not drive it out of the picture's
 * colours. The kernel `scaleByNorm` reckons the same.
 */
export function lightNorm(linearSrgb: Vector3): number {
  const parts = linearSrgb.map((part) => Math.max(0, part));
  const sum = (power: number): number => parts.reduce((total, part) => total + part ** power, 0);
  return sum(3) / (sum(2) + 1e-12);
}

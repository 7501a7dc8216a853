/** CIELAB (ISO/CIE 11664-4:2019) of linear light in an RGB space, against D65. */
import { type Matrix3, apply } from '../math/matrix3.ts';
import type { Vector3 } from '../math/vector3.ts';
import { D65, type RgbSpace, rgbToXyz, xyzOf } from './rgb-spaces.ts';

const KNEE = 6 / 29;
const bent = (share: number): number =>
  share > KNEE ** 3 ? Math.cbrt(share) : share / (3 * KNEE ** 2) + 4 / 29;

/** Makes what takes linear light, 1 for white, to lightness 0..100, a and b. */
export function linearToLab(space: Pick<RgbSpace, 'primaries'>): (light: Vector3) => Vector3 {
  const white = xyzOf(D65);
  const toXyz = rgbToXyz(space).map((value, i) => value / white[Math.floor(i / 3)]) as unknown as Matrix3;
  return (light) => {
    const [x, y, z] = apply(toXyz, light).map(bent);
    return [116 * y - 16, 500 * (x - y), 200 * (y - z)];
  };
}

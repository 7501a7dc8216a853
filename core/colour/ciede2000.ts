/** The difference of two colours of CIELAB as eyes see it (ISO/CIE 11664-6:2022). */
import type { Vector3 } from '../math/vector3.ts';

const DEGREE = Math.PI / 180;
const POWER = 25 ** 7;

/** Where a hue lies, in radians from 0 to 2π; 0 where there is none. */
function hueOf(a: number, b: number): number {
  if (a === 0 && b === 0) return 0;
  const hue = Math.atan2(b, a);
  return hue < 0 ? hue + 2 * Math.PI : hue;
}

export function ciede2000([l1, a1, b1]: Vector3, [l2, a2, b2]: Vector3): number {
  const mean = (Math.hypot(a1, b1) + Math.hypot(a2, b2)) / 2;
  const more = 1.5 - 0.5 * Math.sqrt(mean ** 7 / (mean ** 7 + POWER));
  const [c1, c2] = [Math.hypot(a1 * more, b1), Math.hypot(a2 * more, b2)];
  const [h1, h2] = [hueOf(a1 * more, b1), hueOf(a2 * more, b2)];
  let turned = c1 * c2 === 0 ? 0 : h2 - h1;
  if (turned > Math.PI) turned -= 2 * Math.PI;
  else if (turned < -Math.PI) turned += 2 * Math.PI;
  const hue = c1 * c2 === 0 ? h1 + h2 : h1 + turned / 2;
  const [lightness, chroma] = [(l1 + l2) / 2, (c1 + c2) / 2];
  const t =
    1 -
    0.17 * Math.cos(hue - 30 * DEGREE) +
    0.24 * Math.cos(2 * hue) +
    0.32 * Math.cos(3 * hue + 6 * DEGREE) -
    0.2 * Math.cos(4 * hue - 63 * DEGREE);
  const round = (hue / DEGREE + 360) % 360;
  const turn = 60 * DEGREE * Math.exp(-(((round - 275) / 25) ** 2));
  const rotation = -2 * Math.sqrt(chroma ** 7 / (chroma ** 7 + POWER)) * Math.sin(turn);
  const off = (lightness - 50) ** 2;
  const light = (l2 - l1) / (1 + (0.015 * off) / Math.sqrt(20 + off));
  const strong = (c2 - c1) / (1 + 0.045 * chroma);
  const turns = (2 * Math.sqrt(c1 * c2) * Math.sin(turned / 2)) / (1 + 0.015 * chroma * t);
  return Math.sqrt(light ** 2 + strong ** 2 + turns ** 2 + rotation * strong * turns);
}

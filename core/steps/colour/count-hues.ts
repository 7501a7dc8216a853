import { hueAndChroma } from '../../colour/oklab.ts';
import { type Matrix3, apply } from '../../math/matrix3.ts';
import type { FrameLight } from '../../measure/light/frame-light.ts';

/** Parts of the turn that hues are counted in. */
const PARTS = 72;

/** How much of each five degrees of hue (OKLab) the picture holds, weighed by chroma; the most of them 1. */
export function countHues({ colours }: Pick<FrameLight, 'colours'>, matrix: Matrix3): number[] {
  const counts = new Array<number>(PARTS).fill(0);
  // A quarter of the cells tells as much.
  for (let i = 0; i < colours[0].length; i += 4) {
    const { hue, chroma } = hueAndChroma(apply(matrix, [colours[0][i], colours[1][i], colours[2][i]]));
    counts[Math.floor((hue * PARTS) / 360)] += chroma;
  }
  const most = Math.max(...counts, 1e-9);
  return counts.map((count) => count / most);
}

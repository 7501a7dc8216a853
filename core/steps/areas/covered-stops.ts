/** How much of what a mask covers is how light, in stops of the file's light: what ranges of tones are told in. */
import type { FrameLight } from '../../measure/light/frame-light.ts';
import type { Mask } from './mask.ts';
import { STOPS } from './parts/ranges.ts';

/** Steps of a quarter of a stop. */
const COUNTS = 4 * (STOPS[1] - STOPS[0]);

/** Shares of the covered light by its stops, from the first of `STOPS` to the last; what lies beyond counts at the ends. */
export function coveredStops(
  { width, height, stops }: Pick<FrameLight, 'width' | 'height' | 'stops'>,
  mask: Pick<Mask, 'width' | 'height' | 'values'>
): number[] {
  const counts = new Array<number>(COUNTS).fill(0);
  for (let y = 0; y < height; y++) {
    const row = Math.floor(((y + 0.5) * mask.height) / height) * mask.width;
    for (let x = 0; x < width; x++) {
      const weight = mask.values[row + Math.floor(((x + 0.5) * mask.width) / width)];
      if (weight === 0) continue;
      const at = Math.floor(((stops[y * width + x] - STOPS[0]) / (STOPS[1] - STOPS[0])) * COUNTS);
      counts[Math.min(COUNTS - 1, Math.max(0, at))] += weight;
    }
  }
  const all = counts.reduce((sum, each) => sum + each, 0);
  return all === 0 ? counts : counts.map((each) => each / all);
}

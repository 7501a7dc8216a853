/** The largest rectangle of a ratio in a polygon: of those that are as large, the one nearest to a middle. */
import type { Point } from '../../math/frame-geometry.ts';
import type { Rectangle } from './rectangle.ts';
import { type Place, searchPlace, squared } from './search-place.ts';

/** Largest relative shortfall of the half height in finding it, and what is given for coming near the middle. */
const PRECISION = 5e-5;
const GIVEN = 1e-4;

/**
 * Nearest place to a middle at which a square of a half side fits, to a fiftieth of that; null when it fits nowhere.
 * Works on a squared outline.
 */
export function nearestPlace(outline: readonly Point[], from: Point, half: number): Place | null {
  return searchPlace(outline, {
    from,
    score: (reach, across, down) => (reach >= half ? -Math.hypot(across, down) : -Infinity),
    slack: () => half / 50
  });
}

/** Largest rectangle with width / height = ratio inside a closed outline; null when there is no room. */
export function largestRectangle(
  outline: readonly Point[],
  ratio: number,
  [x, y]: Point = [0, 0]
): Rectangle | null {
  const scaled = squared(outline, ratio);
  const from: Point = [x / ratio, y];
  const largest = searchPlace(scaled, { from, score: (reach) => reach, slack: (best) => best * PRECISION });
  if (!largest) return null;
  const place = nearestPlace(scaled, from, largest.reach * (1 - GIVEN)) ?? largest;
  const height = place.reach * 2;
  return { x: place.x * ratio, y: place.y, width: height * ratio, height };
}

/** Largest rectangle by area of any ratio between 1:4 and 4:1, to a thousandth of its ratio's logarithm. */
function largestFreeRectangle(outline: readonly Point[], middle?: Point): Rectangle | null {
  const area = (log: number): number => {
    const found = largestRectangle(outline, Math.exp(log), middle);
    return found ? found.width * found.height : 0;
  };
  let centre = 0;
  let span = Math.log(4);
  while (span > 1e-3) {
    let best = centre;
    let bestArea = -1;
    for (let i = -4; i <= 4; i++) {
      const log = Math.max(-Math.log(4), Math.min(Math.log(4), centre + (span * i) / 4));
      const value = area(log);
      if (value > bestArea) [best, bestArea] = [log, value];
    }
    centre = best;
    span /= 3;
  }
  return largestRectangle(outline, Math.exp(centre), middle);
}

/** Largest rectangle of a ratio, or of any when it is null, as near to a middle (default: the view's) as its size allows. */
export function largestCrop(
  outline: readonly Point[],
  ratio: number | null,
  middle?: Point
): Rectangle | null {
  return ratio === null ? largestFreeRectangle(outline, middle) : largestRectangle(outline, ratio, middle);
}

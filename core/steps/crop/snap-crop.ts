/** Snapping: a crop's edges and guides come to rest on marks and on the middle of the picture. */
import type { CropHandle } from './resize-crop.ts';
import type { Rectangle } from './rectangle.ts';

export const GUIDES = ['none', 'halves', 'thirds', 'golden', 'diagonals', 'grid', 'safe'] as const;
export type Guide = (typeof GUIDES)[number];

/** Margin in which a deliverable may be covered or cut by where it is shown. */
const SAFE = 0.05;
const GOLDEN = (Math.sqrt(5) - 1) / 2;

/** Shares of width or height at which a guide's lines run, edges left out. */
export function guideShares(guide: Guide): number[] {
  if (guide === 'halves') return [0.5];
  if (guide === 'thirds') return [1 / 3, 2 / 3];
  if (guide === 'safe') return [SAFE, 1 - SAFE];
  if (guide === 'golden') return [1 - GOLDEN, GOLDEN];
  if (guide === 'grid') return Array.from({ length: 11 }, (_, i) => (i + 1) / 12);
  return [];
}

/** What there is to snap to, in upright coordinates. */
export interface SnapTargets {
  /** Places of upright lines, across. */
  x: readonly number[];
  /** Places of level lines, down. */
  y: readonly number[];
}

/** Least shift that brings one of the places onto one of the targets, within reach; 0 where none is near. */
function nearest(places: readonly number[], targets: readonly number[], reach: number): number {
  let best = 0;
  let least = reach;
  for (const place of places) {
    for (const target of targets) {
      const shift = target - place;
      if (Math.abs(shift) < least) {
        least = Math.abs(shift);
        best = shift;
      }
    }
  }
  return best;
}

/** A moved crop with an edge, its middle or a line of the guide brought onto a target within reach. */
export function snapMoved(crop: Rectangle, { x, y }: SnapTargets, guide: Guide, reach: number): Rectangle {
  const shares = [0, 0.5, 1, ...guideShares(guide)];
  const across = shares.map((share) => crop.x + (share - 0.5) * crop.width);
  const down = shares.map((share) => crop.y + (share - 0.5) * crop.height);
  return { ...crop, x: crop.x + nearest(across, x, reach), y: crop.y + nearest(down, y, reach) };
}

/** The point a handle is dragged to, brought onto a target within reach along the axes that the handle moves. */
export function snapHandle(
  handle: CropHandle,
  [px, py]: readonly [number, number],
  { x, y }: SnapTargets,
  reach: number
): [number, number] {
  return [
    handle.x === 0 ? px : px + nearest([px], x, reach),
    handle.y === 0 ? py : py + nearest([py], y, reach)
  ];
}

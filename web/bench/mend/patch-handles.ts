/** What of a mended place can be taken hold of, and what the place is when it is moved. */
import type { Point } from '$core/math/frame-geometry.ts';
import type { Patch } from '$core/steps/mend/patch.ts';

export interface PatchHandle {
  name: string;
  /** Field position. */
  at: Point;
  moved(to: Point): Partial<Patch>;
}

const within = (value: number, most: number): number => Math.min(most, Math.max(-most, value));
const rounded = (value: number): number => Math.round(value * 1e6) / 1e6;

/** Where a place is known by: the middle of its stroke. */
export function middleOf({ points }: Pick<Patch, 'points'>): Point {
  const at = Math.floor(points.length / 4) * 2;
  return [points[at], points[at + 1]];
}

/** The place itself, whose source stays with it, and its source. */
export function handlesOf(patch: Patch): PatchHandle[] {
  const middle = middleOf(patch);
  const place: PatchHandle = {
    name: 'place',
    at: middle,
    moved(to) {
      const [dx, dy] = [to[0] - middle[0], to[1] - middle[1]];
      const { fill } = patch;
      return {
        ...(fill && { fill: { ...fill, left: fill.left + dx, top: fill.top + dy } }),
        points: patch.points.map((value, i) => rounded(within(value + (i % 2 === 0 ? dx : dy), 1.5)))
      };
    }
  };
  if (patch.kind === 'cable' || patch.kind === 'takeOut') return [place];
  const source: PatchHandle = {
    name: 'source',
    at: [middle[0] + patch.source[0], middle[1] + patch.source[1]],
    moved: (to) => ({
      source: [rounded(within(to[0] - middle[0], 2.5)), rounded(within(to[1] - middle[1], 2.5))]
    })
  };
  return [place, source];
}

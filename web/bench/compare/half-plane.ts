/** A line across the sheet, and the part of the sheet on one side of it. */
import type { FrameSize, Point } from '$core/math/frame-geometry.ts';

export interface WipeLine {
  /** A place on it, in shares of the sheet. */
  x: number;
  y: number;
  /** Degrees by which it is turned from upright, clockwise. */
  angle: number;
}

/** How far from its middle it is turned by, in pixels. */
export const ARM = 90;

/** The way that it runs, and the way to its first side: left of an upright one. */
export function waysOf({ angle }: Pick<WipeLine, 'angle'>): { along: Point; across: Point } {
  const turn = (angle * Math.PI) / 180;
  const [sin, cos] = [Math.sin(turn), Math.cos(turn)];
  return { along: [-sin, cos], across: [-cos, -sin] };
}

export const placeOf = ({ x, y }: Pick<WipeLine, 'x' | 'y'>, size: FrameSize): Point => [
  x * size.width,
  y * size.height
];

/** Corners of what lies on the first side of the line, in pixels of the sheet; none where nothing does. */
export function firstSide(line: WipeLine, size: FrameSize): Point[] {
  const { width, height } = size;
  const [px, py] = placeOf(line, size);
  const { across } = waysOf(line);
  const inside = ([x, y]: Point): number => (x - px) * across[0] + (y - py) * across[1];
  const corners: Point[] = [
    [0, 0],
    [width, 0],
    [width, height],
    [0, height]
  ];
  // Sutherland & Hodgman, CACM 17 (1974).
  return corners.flatMap((corner, i) => {
    const next = corners[(i + 1) % corners.length];
    const [here, there] = [inside(corner), inside(next)];
    const kept: Point[] = here >= 0 ? [corner] : [];
    if (here >= 0 !== there >= 0) {
      const share = here / (here - there);
      kept.push([corner[0] + share * (next[0] - corner[0]), corner[1] + share * (next[1] - corner[1])]);
    }
    return kept;
  });
}

/** The angle of a line from a place on it through another, within half a turn; upright is 0. */
export function angleThrough([x0, y0]: Point, [x1, y1]: Point): number {
  const angle = (Math.atan2(y1 - y0, x1 - x0) * 180) / Math.PI - 90;
  return ((angle % 360) + 360) % 360;
}

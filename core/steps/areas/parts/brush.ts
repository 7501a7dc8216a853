/** What was painted with a brush: strokes, one over another, each of them as it was drawn. */
import { id } from '../../../settings/id-schema.ts';
import { smoothstep } from '../../../math/smoothstep.ts';
import { type Grid, cellsWithin, toCells } from '../grid.ts';
import type { Guide } from '../guide.ts';

/** A share of something, 0..100. */
const share = { type: 'number', minimum: 0, maximum: 100 } as const;

/** Strokes of one part, and points of one stroke: the bench thins out and splits what is longer. */
export const MOST_STROKES = 400;
export const MOST_POINTS = 4000;
/** Numbers that a point takes up: its place, and how hard the pen was pressed. */
export const PER_POINT = 3;

export const brushProperties = {
  strokes: {
    type: 'array',
    maxItems: MOST_STROKES,
    items: {
      type: 'object',
      additionalProperties: false,
      required: ['id', 'size', 'softness', 'flow', 'erases', 'keepsEdges', 'points'],
      properties: {
        id,
        /** Radius in field units. */
        size: { type: 'number', minimum: 0.001, maximum: 1 },
        softness: share,
        flow: share,
        erases: { type: 'boolean' },
        /** Only what looks like what lies under the middle of the brush is painted. */
        keepsEdges: { type: 'boolean' },
        /** Across, down, pressure (0..1) of each point, one after another. */
        points: {
          type: 'array',
          minItems: PER_POINT,
          maxItems: MOST_POINTS * PER_POINT,
          items: { type: 'number', minimum: -1.5, maximum: 1.5 }
        }
      }
    }
  }
} as const;

export interface Stroke {
  id: string;
  size: number;
  softness: number;
  flow: number;
  erases: boolean;
  keepsEdges: boolean;
  points: readonly number[];
}

export interface Brush {
  strokes: readonly Stroke[];
}

/** Points nearer to the one before, in shares of the radius, add nothing to what is seen. */
const SPACING = 0.15;
/** How unlike a place may be to that under the brush, as `Guide.unlike` tells it, where painting fades and ends. */
const ALIKE = 0.035;
const UNLIKE = 0.075;

interface Dab {
  x: number;
  y: number;
  radius: number;
}

/** The places of a stroke in cells, without those that add nothing. */
function dabsOf({ points, size }: Stroke, grid: Grid): Dab[] {
  const dabs: Dab[] = [];
  for (let i = 0; i + PER_POINT <= points.length; i += PER_POINT) {
    const [x, y] = toCells(grid, [points[i], points[i + 1]]);
    const radius = Math.max(0.75, size * grid.unit * (0.25 + 0.75 * Math.min(1, Math.max(0, points[i + 2]))));
    const last = dabs.at(-1);
    const isLast = i + 2 * PER_POINT > points.length;
    if (!last || isLast || Math.hypot(x - last.x, y - last.y) >= SPACING * radius)
      dabs.push({ x, y, radius });
  }
  return dabs;
}

/** What was drawn last: painting adds a stroke to those that are there, and they need not be drawn again. */
let last: { width: number; height: number; strokes: readonly Stroke[]; drawn: Float32Array } | null = null;

const isSame = (one: Stroke, other: Stroke): boolean =>
  one.size === other.size &&
  one.softness === other.softness &&
  one.flow === other.flow &&
  one.erases === other.erases &&
  one.points.length === other.points.length &&
  one.points.every((value, i) => value === other.points[i]);

/** How many of the first strokes stand in what was drawn last. Those that keep to edges are of one picture alone. */
function drawnBefore(strokes: readonly Stroke[], { width, height }: Grid): number {
  if (!last || last.width !== width || last.height !== height) return 0;
  const { strokes: known } = last;
  const isBegun = known.length <= strokes.length && known.every((stroke, i) => isSame(stroke, strokes[i]));
  return isBegun ? known.length : 0;
}

/** Draws strokes one over another; `guide`: what edges are told by. */
export function drawBrush({ strokes }: Brush, grid: Grid, out: Float32Array, guide: () => Guide): void {
  const keepable = strokes.some(({ keepsEdges }) => keepsEdges) ? 0 : strokes.length;
  const before = keepable === 0 ? 0 : drawnBefore(strokes, grid);
  if (before > 0) out.set(last!.drawn);
  else out.fill(0);
  drawStrokes(strokes.slice(before), grid, out, guide);
  if (keepable > before)
    last = { width: grid.width, height: grid.height, strokes, drawn: new Float32Array(out) };
}

function drawStrokes(strokes: readonly Stroke[], grid: Grid, out: Float32Array, guide: () => Guide): void {
  const stroke = new Float32Array(out.length);
  for (const each of strokes) {
    const dabs = dabsOf(each, grid);
    const most = Math.max(...dabs.map(({ radius }) => radius));
    const [xs, ys] = [dabs.map(({ x }) => x), dabs.map(({ y }) => y)];
    const bounds = [least(xs), least(ys), greatest(xs), greatest(ys)] as const;
    const box = cellsWithin(grid, bounds, most + 1);
    for (let y = box.top; y < box.bottom; y++)
      stroke.fill(0, y * grid.width + box.left, y * grid.width + box.right);
    const soft = each.softness / 100;
    dabs.forEach((dab, i) => drawSegment(dabs[Math.max(0, i - 1)], dab, soft, grid, stroke, each, guide));
    const flow = each.flow / 100;
    for (let y = box.top; y < box.bottom; y++)
      for (let at = y * grid.width + box.left; at < y * grid.width + box.right; at++) {
        const by = stroke[at] * flow;
        out[at] = each.erases ? out[at] * (1 - by) : out[at] + (1 - out[at]) * by;
      }
  }
}

const least = (of: readonly number[]): number => of.reduce((one, other) => Math.min(one, other), Infinity);
const greatest = (of: readonly number[]): number =>
  of.reduce((one, other) => Math.max(one, other), -Infinity);

/** The way from one dab to the next: every cell takes the most that any part of it gives. */
function drawSegment(
  from: Dab,
  to: Dab,
  soft: number,
  grid: Grid,
  out: Float32Array,
  { keepsEdges }: Stroke,
  guide: () => Guide
): void {
  const reach = Math.max(from.radius, to.radius) + 0.5;
  const [dx, dy] = [to.x - from.x, to.y - from.y];
  const square = dx * dx + dy * dy;
  const box = cellsWithin(
    grid,
    [Math.min(from.x, to.x), Math.min(from.y, to.y), Math.max(from.x, to.x), Math.max(from.y, to.y)],
    reach
  );
  const unlike = keepsEdges ? guide().unlike([to.x, to.y]) : null;
  const even = from.radius === to.radius;
  for (let y = box.top; y < box.bottom; y++)
    for (let x = box.left, at = y * grid.width + box.left; x < box.right; x++, at++) {
      // No part of the way gives more than all.
      if (out[at] === 1) continue;
      const [px, py] = [x - from.x, y - from.y];
      let along = square === 0 ? 0 : (px * dx + py * dy) / square;
      along = along < 0 ? 0 : along > 1 ? 1 : along;
      const [ax, ay] = [px - along * dx, py - along * dy];
      const away = ax * ax + ay * ay;
      const radius = even ? from.radius : from.radius + (to.radius - from.radius) * along;
      if (away >= (radius + 0.5) ** 2) continue;
      // A rim of a cell at least.
      const inner = Math.max(0, Math.min(radius * (1 - soft), radius - 0.5));
      let value = away <= inner * inner ? 1 : 1 - smoothstep(inner, radius + 0.5, Math.sqrt(away));
      if (value <= out[at]) continue;
      if (unlike) value *= 1 - smoothstep(ALIKE, UNLIKE, unlike(at));
      if (value > out[at]) out[at] = value;
    }
}

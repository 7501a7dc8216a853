/** What was painted with a brush: strokes, one over another, each of them as it was drawn. */
import { id } from '../../../settings/id-schema.ts';
import { smoothstep } from '../../../math/smoothstep.ts';
import { type Grid, cellsWithin, toCells } from '../../../picture/tile/grid.ts';
import type { Guide } from '../guide.ts';
import type { Pictured } from '../pictured.ts';

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
        /** The most that strokes over one another build up to; without it, all. */
        cap: share,
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
  cap?: number;
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

/**
 * What was drawn last: painting adds points to the last stroke, or a stroke to those that are there, and what was drawn of them
 * need not be drawn again.
 */
interface Drawn {
  width: number;
  height: number;
  /** The picture that edges were kept of; null: none was. */
  picture: string | null;
  /** Strokes that are whole, as they lie over one another. */
  strokes: readonly Stroke[];
  under: Float32Array;
  /** The last stroke by itself, up to the dabs that stay when it goes on. */
  last: Stroke | null;
  dabs: readonly Dab[];
  stroke: Float32Array;
}
let drawn: Drawn | null = null;

const isAlike = (one: Stroke, other: Stroke): boolean =>
  one.size === other.size &&
  one.softness === other.softness &&
  one.flow === other.flow &&
  one.erases === other.erases &&
  one.keepsEdges === other.keepsEdges &&
  one.cap === other.cap;
const isSame = (one: Stroke, other: Stroke): boolean =>
  isAlike(one, other) &&
  one.points.length === other.points.length &&
  one.points.every((value, i) => value === other.points[i]);

/** What was drawn of strokes before; what keeps to edges is of one picture alone. */
function drawnOf(strokes: readonly Stroke[], { width, height }: Grid, picture: string | null): Drawn {
  const keeps = strokes.some(({ keepsEdges }) => keepsEdges);
  const isKnown =
    drawn !== null &&
    drawn.width === width &&
    drawn.height === height &&
    (!keeps || (picture !== null && drawn.picture === picture)) &&
    drawn.strokes.length < strokes.length &&
    drawn.strokes.every((stroke, i) => isSame(stroke, strokes[i]));
  if (isKnown) return drawn!;
  const plane = (): Float32Array => new Float32Array(width * height);
  return { width, height, picture, strokes: [], under: plane(), last: null, dabs: [], stroke: plane() };
}

/** Draws strokes one over another. */
export function drawBrush(
  { strokes }: Brush,
  grid: Grid,
  { picture }: Pick<Pictured, 'picture'>,
  guide: () => Guide,
  out: Float32Array
): void {
  if (strokes.length === 0) {
    out.fill(0);
    return;
  }
  const known = drawnOf(strokes, grid, picture);
  // What breaks off half way is not gone on with.
  drawn = null;
  const last = strokes[strokes.length - 1];
  // The stroke that was the last may be one of those that are whole now.
  for (const stroke of strokes.slice(known.strokes.length, -1)) {
    drawStroke(known, stroke, grid, guide, known.under);
    known.strokes = [...known.strokes, stroke];
  }
  out.set(known.under);
  drawStroke(known, last, grid, guide, out);
  drawn = known;
}

/** Draws a stroke over what there is, from as much of it as was drawn before. */
function drawStroke(known: Drawn, each: Stroke, grid: Grid, guide: () => Guide, out: Float32Array): void {
  const { width } = grid;
  const dabs = dabsOf(each, grid);
  const begun =
    known.last !== null &&
    isAlike(known.last, each) &&
    known.dabs.length < dabs.length &&
    known.dabs.every(
      ({ x, y, radius }, i) => x === dabs[i].x && y === dabs[i].y && radius === dabs[i].radius
    );
  if (!begun) {
    if (known.last) clearBox(known.stroke, boxOf(known.dabs, grid), width);
    known.dabs = [];
  }
  const { stroke } = known;
  const soft = each.softness / 100;
  const draw = (i: number): void =>
    drawSegment(dabs[Math.max(0, i - 1)], dabs[i], soft, grid, stroke, each, guide);
  // The last dab may be gone when the stroke goes on.
  for (let i = known.dabs.length; i < dabs.length - 1; i++) draw(i);
  known.last = each;
  known.dabs = dabs.slice(0, -1);
  const end = boxOf(dabs.slice(-2), grid);
  const before = cutBox(stroke, end, width);
  draw(dabs.length - 1);
  const flow = each.flow / 100;
  const cap = (each.cap ?? 100) / 100;
  const box = boxOf(dabs, grid);
  for (let y = box.top; y < box.bottom; y++)
    for (let at = y * width + box.left; at < y * width + box.right; at++) {
      const by = stroke[at] * flow;
      if (each.erases) out[at] *= 1 - by;
      // What other strokes have laid on beyond its cap stays.
      else if (out[at] < cap) out[at] += (cap - out[at]) * by;
    }
  putBox(before, stroke, end, width);
}

type CellBox = ReturnType<typeof cellsWithin>;

/** The cells that dabs, and the ways between them, reach. */
function boxOf(dabs: readonly Dab[], grid: Grid): CellBox {
  const [xs, ys] = [dabs.map(({ x }) => x), dabs.map(({ y }) => y)];
  const most = greatest(dabs.map(({ radius }) => radius));
  return dabs.length === 0
    ? { left: 0, top: 0, right: 0, bottom: 0 }
    : cellsWithin(grid, [least(xs), least(ys), greatest(xs), greatest(ys)], most + 1);
}

function clearBox(plane: Float32Array, { left, top, right, bottom }: CellBox, width: number): void {
  for (let y = top; y < bottom; y++) plane.fill(0, y * width + left, y * width + right);
}

function cutBox(
  plane: Float32Array,
  { left, top, right, bottom }: CellBox,
  width: number
): readonly Float32Array[] {
  return Array.from({ length: Math.max(0, bottom - top) }, (_, i) =>
    plane.slice((top + i) * width + left, (top + i) * width + right)
  );
}

function putBox(
  rows: readonly Float32Array[],
  plane: Float32Array,
  { left, top }: CellBox,
  width: number
): void {
  rows.forEach((row, i) => plane.set(row, (top + i) * width + left));
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

/** Segments of a picture as what is asked of them many times over: middles, directions, and how well these are known. */
import type { Matrix3 } from '../../../math/matrix3.ts';
import type { Vector3 } from '../../../math/vector3.ts';
import type { Segment } from '../find-segments.ts';

export const RADIANS = Math.PI / 180;
/** Segments further than this from upright in the picture are none that may be plumb. */
const UPRIGHT = 50;

/** One entry a segment: its middle and unit direction in field units. */
export interface Lines {
  count: number;
  mx: Float64Array;
  my: Float64Array;
  tx: Float64Array;
  ty: Float64Array;
  /** Variance of the direction by its ends, in radians squared. */
  variance: Float64Array;
  weight: Float64Array;
  upright: number[];
}

/** Long lines are by hands of builders; short ones may be anything. */
const weightOf = (length: number): number => Math.min(2.5, Math.max(0.25, length / 0.12));

export function toLines(segments: readonly Segment[]): Lines {
  const of = (value: (segment: Segment) => number): Float64Array => Float64Array.from(segments, value);
  const upright: number[] = [];
  segments.forEach(({ a, b }, i) => {
    const lean = Math.abs(Math.atan2(b[0] - a[0], b[1] - a[1])) / RADIANS;
    if (Math.min(lean, 180 - lean) < UPRIGHT) upright.push(i);
  });
  return {
    count: segments.length,
    mx: of(({ a, b }) => (a[0] + b[0]) / 2),
    my: of(({ a, b }) => (a[1] + b[1]) / 2),
    tx: of(({ a, b, length }) => (b[0] - a[0]) / length),
    ty: of(({ a, b, length }) => (b[1] - a[1]) / length),
    variance: of(({ error, length }) => 2 * (error / length) ** 2),
    weight: of(({ length }) => weightOf(length)),
    upright
  };
}

/** Angle in the picture, in radians, from a segment to the line through its middle and a vanishing point. */
export function offFrom(lines: Lines, i: number, x: number, y: number, z: number, focal: number): number {
  const dx = focal * x - lines.mx[i] * z;
  const dy = focal * y - lines.my[i] * z;
  const length = Math.hypot(dx, dy);
  if (length < 1e-9) return 0;
  const sine = (lines.tx[i] * dy - lines.ty[i] * dx) / length;
  const cosine = lines.tx[i] * dx + lines.ty[i] * dy;
  return Math.asin(Math.max(-1, Math.min(1, cosine < 0 ? -sine : sine)));
}

/** Lines as they run with a bow undone: u = d (1 − k d²), to first order. */
export function unbent(lines: Lines, bow: number): Lines {
  if (bow === 0) return lines;
  const { mx, my, tx, ty, count } = lines;
  const out = { ...lines, mx: mx.slice(), my: my.slice(), tx: tx.slice(), ty: ty.slice() };
  for (let i = 0; i < count; i++) {
    const less = 1 - bow * (mx[i] ** 2 + my[i] ** 2);
    const along = 2 * bow * (mx[i] * tx[i] + my[i] * ty[i]);
    const [dx, dy] = [tx[i] * less - along * mx[i], ty[i] * less - along * my[i]];
    const length = Math.hypot(dx, dy);
    out.mx[i] *= less;
    out.my[i] *= less;
    out.tx[i] = dx / length;
    out.ty[i] = dy / length;
  }
  return out;
}

/** Normal of the plane through a line and the lens, in the upright frame of a rotation. */
export function planeOf(lines: Lines, i: number, r: Matrix3, focal: number): Vector3 {
  const nx = -lines.ty[i] * focal;
  const ny = lines.tx[i] * focal;
  const nz = lines.ty[i] * lines.mx[i] - lines.tx[i] * lines.my[i];
  return [
    r[0] * nx + r[1] * ny + r[2] * nz,
    r[3] * nx + r[4] * ny + r[5] * nz,
    r[6] * nx + r[7] * ny + r[8] * nz
  ];
}

const ROOT = Math.sqrt(2 * Math.PI);

/** Density of a normal distribution. */
export const normal = (off: number, variance: number): number =>
  Math.exp(-(off * off) / (2 * variance)) / (ROOT * Math.sqrt(variance));

/** Density of directions that may be any. */
export const UNIFORM = 1 / Math.PI;

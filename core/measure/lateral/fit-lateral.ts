/** Radial sizes of red and blue from their offsets at edges, and the Fringe reading. */
import { Matrix, solve } from 'ml-matrix';
import { type Lateral, lateralShift } from '../../optics/lens-model.ts';
import type { LateralEdge } from './measure-edges.ts';

type Channel = 'red' | 'blue';

export type LateralFit =
  | {
      ok: true;
      lateral: Lateral;
      /** Edges that were used, and those of them in the outer third. */
      edges: number;
      outer: number;
    }
  | { ok: false; reason: string };

/** Edges needed at all; for a size that changes with the radius; and, in the outer third too, for a full cubic. */
const FEWEST = 16;
const ENOUGH = 40;
const PLENTY = 600;
const PLENTY_OUTER = 200;

/** What a lateral error makes of an edge: the offset across it, in field units. */
function predicted(edge: LateralEdge, coefficients: readonly number[]): number {
  const [x, y] = edge.at;
  const radius = Math.hypot(x, y);
  return lateralShift(coefficients, radius) * (x * edge.across[0] + y * edge.across[1]);
}

/**
 * Powers of the radius in a size: with few edges only those of a lens's own symmetry, since a fuller series runs away
 * where the last edges end.
 */
function powersFor(edges: readonly LateralEdge[]): number[] {
  if (edges.length < ENOUGH) return [0];
  return edges.length < PLENTY || edges.filter(isOuter).length < PLENTY_OUTER ? [0, 2] : [0, 1, 2];
}

/** Coefficients of one colour by reweighted least squares (Tukey's biweight). */
function fitChannel(edges: readonly LateralEdge[], channel: Channel, unit: number): number[] {
  const used = edges.filter((edge) => edge[channel] !== null);
  const powers = powersFor(used);
  const n = powers.length;
  let weights = used.map(() => 1);
  let out: number[] = [];
  for (let round = 0; round < 12; round++) {
    const normal = Matrix.zeros(n, n);
    const right = Matrix.zeros(n, 1);
    used.forEach((edge, e) => {
      const [x, y] = edge.at;
      const radius = Math.hypot(x, y);
      const along = x * edge.across[0] + y * edge.across[1];
      const row = powers.map((power) => along * radius ** power);
      for (let i = 0; i < n; i++) {
        right.set(i, 0, right.get(i, 0) + (weights[e] * row[i] * edge[channel]!) / unit);
        for (let j = 0; j < n; j++) normal.set(i, j, normal.get(i, j) + weights[e] * row[i] * row[j]);
      }
    });
    for (let i = 0; i < n; i++) normal.set(i, i, normal.get(i, i) * (1 + 1e-6) + 1e-12);
    const solution = solve(normal, right).to1DArray();
    out = new Array<number>(powers[n - 1] + 1).fill(0);
    powers.forEach((power, i) => (out[power] = solution[i]));
    const errors = used.map((edge) => Math.abs(edge[channel]! - predicted(edge, out) * unit));
    const median = [...errors].sort((a, b) => a - b)[errors.length >> 1];
    const scale = 4.685 * Math.max(0.02, 1.4826 * median);
    weights = errors.map((e) => (e < scale ? (1 - (e / scale) ** 2) ** 2 : 0));
  }
  return out;
}

/** Fits both colours. `unit` is half the diagonal in pixels. */
export function fitLateral(edges: readonly LateralEdge[], unit: number): LateralFit {
  const red = edges.filter((edge) => edge.red !== null).length;
  const blue = edges.filter((edge) => edge.blue !== null).length;
  if (Math.min(red, blue) < FEWEST) {
    return {
      ok: false,
      reason: `Only ${Math.min(red, blue)} clean edges were found, too few to measure coloured edges from. Use a picture with more contrasty detail towards its sides, or set red and blue by hand.`
    };
  }
  return {
    ok: true,
    lateral: { red: fitChannel(edges, 'red', unit), blue: fitChannel(edges, 'blue', unit) },
    edges: edges.length,
    outer: edges.filter(isOuter).length
  };
}

/** The sizes alone; null where the edges do not tell them. */
export function lateralFrom(edges: readonly LateralEdge[], unit: number): Lateral | null {
  const fit = fitLateral(edges, unit);
  return fit.ok ? fit.lateral : null;
}

const isOuter = ({ at }: LateralEdge): boolean => Math.hypot(at[0], at[1]) > 2 / 3;

export interface FringeReading {
  /** RMS offset of red and of blue against green, in pixels at full size; the larger of the two in `worst`. */
  red: number;
  blue: number;
  worst: number;
  edges: number;
}

/** Edges in the outer third needed for a reading. */
const FEWEST_OUTER = 8;

/** What is left of the fringes at strong edges in the outer third after a correction; null when there are too few edges. */
export function fringeReading(
  edges: readonly LateralEdge[],
  lateral: Lateral | null,
  unit: number
): FringeReading | null {
  const outer = edges.filter(isOuter);
  const rms = (channel: Channel): number | null => {
    const left = outer
      .filter((edge) => edge[channel] !== null)
      .map((edge) => edge[channel]! - predicted(edge, lateral?.[channel] ?? []) * unit);
    if (left.length < FEWEST_OUTER) return null;
    // A few edges in a picture are coloured in truth: the worst twentieth does not count.
    const kept = left.map((value) => value * value).sort((a, b) => a - b);
    const count = Math.ceil(kept.length * 0.95);
    return Math.sqrt(kept.slice(0, count).reduce((a, b) => a + b) / count);
  };
  const red = rms('red');
  const blue = rms('blue');
  if (red === null || blue === null) return null;
  return { red, blue, worst: Math.max(red, blue), edges: outer.length };
}

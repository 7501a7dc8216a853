/**
 * Long smooth edges of a picture, straight or bent: chains of edge pixels, joined over short gaps, and kept where a gently
 * bent curve explains them.
 */
import type { Point } from '../../math/frame-geometry.ts';
import { SHORTEST_CHAIN, edgeChains } from './edge-chains.ts';
import type { GreyPlane } from './trace-polyline.ts';

export interface FoundCurve {
  /** Points in order along the edge, in the plane's pixels. */
  points: Point[];
  length: number;
}

export interface FindCurvesOptions {
  /** Shortest edge kept, as a share of half the diagonal (default 0.14). */
  shortest?: number;
  most?: number;
}

/** Coefficients of v = a + b u + c u² + d u³ by least squares, u in -1…1. */
function cubicFit(u: readonly number[], v: readonly number[]): number[] {
  const n = 4;
  const a = Array.from({ length: n }, () => new Array<number>(n + 1).fill(0));
  u.forEach((t, i) => {
    const powers = [1, t, t * t, t * t * t];
    for (let r = 0; r < n; r++) {
      for (let c = 0; c < n; c++) a[r][c] += powers[r] * powers[c];
      a[r][n] += powers[r] * v[i];
    }
  });
  for (let i = 0; i < n; i++) {
    const pivot = a[i][i] + 1e-9;
    for (let r = i + 1; r < n; r++) {
      const factor = a[r][i] / pivot;
      for (let c = i; c <= n; c++) a[r][c] -= factor * a[i][c];
    }
  }
  const out = new Array<number>(n).fill(0);
  for (let i = n - 1; i >= 0; i--) {
    let value = a[i][n];
    for (let c = i + 1; c < n; c++) value -= a[i][c] * out[c];
    out[i] = value / (a[i][i] + 1e-9);
  }
  return out;
}

interface Gentle {
  /** RMS distance of the points from the fitted cubic, and how far the curve departs from its chord; in pixels. */
  rms: number;
  bow: number;
  length: number;
  /** Points within three times the RMS. */
  points: Point[];
}

/** A chain as a gently bent curve over its chord. */
function gentle(points: readonly Point[]): Gentle {
  const [a, b] = [points[0], points[points.length - 1]];
  const length = Math.hypot(b[0] - a[0], b[1] - a[1]) || 1;
  const [tx, ty] = [(b[0] - a[0]) / length, (b[1] - a[1]) / length];
  const u = points.map((p) => (2 * ((p[0] - a[0]) * tx + (p[1] - a[1]) * ty)) / length - 1);
  const v = points.map((p) => -(p[0] - a[0]) * ty + (p[1] - a[1]) * tx);
  const c = cubicFit(u, v);
  const errors = u.map((t, i) => v[i] - (c[0] + t * (c[1] + t * (c[2] + t * c[3]))));
  const rms = Math.sqrt(errors.reduce((sum, e) => sum + e * e, 0) / errors.length);
  return {
    rms,
    bow: Math.max(...v.map(Math.abs)),
    length,
    points: points.filter((_, i) => Math.abs(errors[i]) <= Math.max(3 * rms, 0.3))
  };
}

/** Unit direction at the end of a chain, from its last points. */
function endDirection(points: readonly Point[], atEnd: boolean): Point {
  const span = Math.min(points.length - 1, 18);
  const [a, b] = atEnd
    ? [points[points.length - 1 - span], points[points.length - 1]]
    : [points[span], points[0]];
  const length = Math.hypot(b[0] - a[0], b[1] - a[1]) || 1;
  return [(b[0] - a[0]) / length, (b[1] - a[1]) / length];
}

interface Piece {
  points: Point[];
  /** The piece that took this one in, if any. */
  into: Piece | null;
}

const rootOf = (piece: Piece): Piece => {
  let root = piece;
  while (root.into) root = root.into;
  return root;
};

/** Joins chains that go on in the same direction after a gap, as where a downpipe crosses a cornice. */
function join(chains: readonly Point[][], largestGap: number): Point[][] {
  const pieces: Piece[] = chains.map((points) => ({ points, into: null }));
  pieces.sort((a, b) => b.points.length - a.points.length);
  // Ends by the square of the picture they lie in: only near ones can belong together.
  const squares = new Map<string, { at: Point; piece: Piece }[]>();
  const squareOf = ([x, y]: Point): [number, number] => [
    Math.floor(x / largestGap),
    Math.floor(y / largestGap)
  ];
  for (const piece of pieces) {
    for (const at of [piece.points[0], piece.points[piece.points.length - 1]]) {
      const key = squareOf(at).join();
      const there = squares.get(key);
      if (there) there.push({ at, piece });
      else squares.set(key, [{ at, piece }]);
    }
  }
  const near = (at: Point): { at: Point; piece: Piece }[] => {
    const [cx, cy] = squareOf(at);
    const found: { at: Point; piece: Piece }[] = [];
    for (let y = cy - 1; y <= cy + 1; y++)
      for (let x = cx - 1; x <= cx + 1; x++) found.push(...(squares.get(`${x},${y}`) ?? []));
    return found;
  };
  for (const piece of pieces) {
    if (piece.into) continue;
    for (let grown = true; grown;) {
      grown = false;
      for (const atEnd of [true, false]) {
        const end = atEnd ? piece.points[piece.points.length - 1] : piece.points[0];
        const direction = endDirection(piece.points, atEnd);
        let best: { piece: Piece; reversed: boolean; gap: number } | null = null;
        for (const candidate of near(end)) {
          const other = rootOf(candidate.piece);
          if (other === piece) continue;
          const start = candidate.at;
          const reversed = start === other.points[other.points.length - 1];
          // An end that has been joined to something is no end any more.
          if (!reversed && start !== other.points[0]) continue;
          const gx = start[0] - end[0];
          const gy = start[1] - end[1];
          const gap = Math.hypot(gx, gy);
          if (gap > largestGap || (best && gap >= best.gap)) continue;
          const aside = Math.abs(gx * direction[1] - gy * direction[0]);
          if (gx * direction[0] + gy * direction[1] < -1 || aside > 0.7 + gap * 0.02) continue;
          const onwards = endDirection(other.points, reversed);
          if (-(onwards[0] * direction[0] + onwards[1] * direction[1]) < 0.998) continue;
          best = { piece: other, reversed, gap };
        }
        if (!best) continue;
        const more = best.reversed ? [...best.piece.points].reverse() : best.piece.points;
        const joined = atEnd ? [...piece.points, ...more] : [...[...more].reverse(), ...piece.points];
        if (gentle(joined).rms > ROUGHEST) continue;
        piece.points = joined;
        best.piece.into = piece;
        grown = true;
      }
    }
  }
  return pieces.filter((piece) => !piece.into).map((piece) => piece.points);
}

/** Chains that a cubic fits worse than this, in pixels RMS, are not one edge. */
const ROUGHEST = 0.55;
/** Sharpest bow of an edge that may be straight in truth, against its length. */
const MOST_BOW = 0.09;

/** Cuts a chain where a cubic no longer fits, and keeps the parts that it does. */
function cut(points: Point[]): Point[][] {
  if (points.length < SHORTEST_CHAIN) return [];
  const whole = gentle(points);
  if (whole.rms <= ROUGHEST && whole.bow <= MOST_BOW * whole.length) return [points];
  const [a, b] = [points[0], points[points.length - 1]];
  let furthest = points.length >> 1;
  let most = 0;
  points.forEach((p, i) => {
    const d = Math.abs((p[0] - a[0]) * (b[1] - a[1]) - (p[1] - a[1]) * (b[0] - a[0]));
    if (d > most) {
      most = d;
      furthest = i;
    }
  });
  const at = Math.max(4, Math.min(points.length - 4, furthest));
  return [...cut(points.slice(0, at)), ...cut(points.slice(at))];
}

/** Length squared by distance from the middle, both in half diagonals: about how far a lens bows an edge. */
const LEAST_WORTH = 0.01;

/** Finds long smooth edges, those first that say most about the lens: long ones, far from the middle. */
export function findCurves(
  plane: GreyPlane,
  { shortest = 0.14, most = 40 }: FindCurvesOptions = {}
): FoundCurve[] {
  const chains = edgeChains(plane).flatMap(cut);
  const half = Math.hypot(plane.width, plane.height) / 2;
  const joined = join(
    chains.filter((chain) => chain.length >= 20),
    half * 0.05
  );
  const centre: Point = [plane.width / 2, plane.height / 2];
  return joined
    .map((points) => gentle(points))
    .filter((g) => g.length >= shortest * half && g.rms <= ROUGHEST && g.bow <= MOST_BOW * g.length)
    .map((g) => {
      const [a, b] = [g.points[0], g.points[g.points.length - 1]];
      const off =
        Math.abs((centre[0] - a[0]) * (b[1] - a[1]) - (centre[1] - a[1]) * (b[0] - a[0])) / g.length;
      return { points: g.points, length: g.length, worth: (g.length / half) ** 2 * (off / half) };
    })
    .filter(({ worth }) => worth >= LEAST_WORTH)
    .sort((a, b) => b.worth - a.worth)
    .slice(0, most)
    .map(({ points, length }) => ({ points, length }));
}

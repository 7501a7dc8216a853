/** Pieces of one straight edge joined: what lies along a longer piece, within the error of both, makes it longer. */
import type { Point } from '../../math/frame-geometry.ts';
import type { Segment } from './find-segments.ts';

/** A piece belongs to a line when its ends lie within this many times the error of both. */
const WITHIN = 3.2;
/** Gap that is bridged, against the length of both pieces. */
const GAP = 0.8;

interface Line {
  segment: Segment;
  tx: number;
  ty: number;
}

const toLine = (segment: Segment): Line => ({
  segment,
  tx: (segment.b[0] - segment.a[0]) / segment.length,
  ty: (segment.b[1] - segment.a[1]) / segment.length
});

/** The line through the ends of pieces, each weighted by its length and how well it is placed. */
function through(pieces: readonly Segment[]): Segment {
  let [total, mx, my] = [0, 0, 0];
  const weightOf = ({ length, error }: Segment): number => length / error ** 2;
  for (const piece of pieces) {
    const weight = weightOf(piece);
    for (const [x, y] of [piece.a, piece.b]) {
      total += weight;
      mx += weight * x;
      my += weight * y;
    }
  }
  mx /= total;
  my /= total;
  let [xx, xy, yy] = [0, 0, 0];
  for (const piece of pieces) {
    const weight = weightOf(piece);
    for (const [x, y] of [piece.a, piece.b]) {
      xx += weight * (x - mx) ** 2;
      xy += weight * (x - mx) * (y - my);
      yy += weight * (y - my) ** 2;
    }
  }
  const angle = Math.atan2(2 * xy, xx - yy) / 2;
  const [tx, ty] = [Math.cos(angle), Math.sin(angle)];
  let [from, to] = [Infinity, -Infinity];
  for (const piece of pieces) {
    for (const [x, y] of [piece.a, piece.b]) {
      const along = (x - mx) * tx + (y - my) * ty;
      from = Math.min(from, along);
      to = Math.max(to, along);
    }
  }
  const at = (s: number): Point => [mx + tx * s, my + ty * s];
  return { a: at(from), b: at(to), length: to - from, error: Math.min(...pieces.map(({ error }) => error)) };
}

/** Joined segments, longest first. Pieces found at several sizes of the picture become one, placed as the finest says. */
export function joinSegments(segments: readonly Segment[]): Segment[] {
  const lines = [...segments].sort((p, q) => q.length - p.length).map(toLine);
  const taken = new Uint8Array(lines.length);
  const joined: Segment[] = [];
  lines.forEach((first, i) => {
    if (taken[i]) return;
    taken[i] = 1;
    const pieces = [first.segment];
    let line = first;
    for (let grown = true; grown;) {
      grown = false;
      for (let j = i + 1; j < lines.length; j++) {
        if (taken[j]) continue;
        const other = lines[j];
        // Directions first: they tell most pairs apart at once.
        if (Math.abs(line.tx * other.ty - line.ty * other.tx) > 0.03) continue;
        const { a, error, length } = line.segment;
        const allowed = WITHIN * Math.hypot(error, other.segment.error);
        const place = ([x, y]: Point): [number, number] => [
          (x - a[0]) * line.tx + (y - a[1]) * line.ty,
          -(x - a[0]) * line.ty + (y - a[1]) * line.tx
        ];
        const [p, q] = [place(other.segment.a), place(other.segment.b)];
        if (Math.abs(p[1]) > allowed || Math.abs(q[1]) > allowed) continue;
        const gap = Math.max(Math.min(p[0], q[0]) - length, -Math.max(p[0], q[0]));
        if (gap > GAP * (length + other.segment.length)) continue;
        taken[j] = 1;
        pieces.push(other.segment);
        if (gap > -0.5 * other.segment.length) {
          line = toLine(through(pieces));
          grown = true;
        }
      }
    }
    joined.push(pieces.length > 1 ? through(pieces) : first.segment);
  });
  return joined.sort((p, q) => q.length - p.length);
}

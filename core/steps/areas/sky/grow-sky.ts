/** What sky grows into beyond the even pieces that it was found by, and what it leaves to others. */
import type { FrameSize } from '../../../math/frame-geometry.ts';
import { type Piece, SPAN, piecesOf } from './even-pieces.ts';
import { type Looks, neighboursIn } from './looks.ts';
import { type SkyLook, drawLike } from './sky-look.ts';

/** Stops of light and of hue that a cloud changes by from cell to cell at most; and how much darker than the sky it is. */
const SOFT = 0.06;
const SOFT_HUE = 0.07;
const CLOUD_DARKER = 0.08;
/** Share of the frame of the largest cloud that sky closes in. */
const LARGEST_HOLE = 0.03;
/** Share of sky below which a cell may be of a hole. */
const WHOLE = 0.9;

/** Adds what grows lighter from the sky little by little: a cloud. How many cells those were. */
export function growInto(seeds: Uint8Array, look: SkyLook, { stops, hue, width, height }: Looks): number {
  const neighbours = neighboursIn({ width, height });
  const queue = [...seeds.keys()].filter((at) => seeds[at]);
  const before = queue.length;
  for (let n = 0; n < queue.length; n++) {
    const at = queue[n];
    const visit = (to: number): void => {
      if (seeds[to] || look.near[to] === 0 || stops[to] < look.light[to] - CLOUD_DARKER) return;
      if (Math.abs(stops[to] - stops[at]) > SOFT || Math.abs(hue[to] - hue[at]) > SOFT_HUE) return;
      seeds[to] = 1;
      queue.push(to);
    };
    neighbours(at, visit);
  }
  return queue.length - before;
}

/** Adds what sky closes in, if it is lighter than the sky, or greyer and no darker: a cloud. The cells that those are. */
export function fillHoles(seeds: Uint8Array, look: SkyLook, coarse: Looks): number[] {
  const { width, stops, hue } = coarse;
  const shares = new Float32Array(stops.length);
  drawLike(look, coarse, shares);
  const holes = piecesOf(
    Uint8Array.from(shares, (share) => (share < WHOLE ? 1 : 0)),
    coarse
  ).pieces.filter(
    ({ cells }) =>
      cells.length < LARGEST_HOLE * stops.length &&
      cells.every((at) => at % width > 0 && at % width < width - 1 && at < stops.length - width)
  );
  const found: number[] = [];
  for (const { cells } of holes) {
    let [lighter, greyer] = [0, 0];
    for (const at of cells) {
      lighter += stops[at] - look.light[at];
      greyer += look.hue[at] - hue[at];
    }
    // Before a blue sky a cloud need not be lighter, but is less blue; what is built and hangs in the air is darker.
    if (lighter <= (greyer > 0 ? -CLOUD_DARKER * cells.length : 0)) continue;
    for (const at of cells) {
      seeds[at] = 1;
      found.push(at);
    }
  }
  return found;
}

/** The cells of some pieces, and those about them that are closer to them than to seeds: an edge lies half-way between two. */
export function closerTo(
  pieces: readonly Piece[],
  seeds: Uint8Array,
  { width, height }: FrameSize
): number[] {
  const size = width * height;
  const neighbours = neighboursIn({ width, height });
  const owner = new Uint8Array(size);
  const theirs = pieces.flatMap(({ cells }) => [...cells]);
  for (const at of theirs) owner[at] = 2;
  let border = [...theirs];
  for (let at = 0; at < size; at++)
    if (seeds[at]) {
      owner[at] = 1;
      border.push(at);
    }
  for (let step = 0; step < 2 * SPAN && border.length > 0; step++) {
    const next: number[] = [];
    for (const at of border) {
      const visit = (to: number): void => {
        if (owner[to] !== 0) return;
        owner[to] = owner[at];
        next.push(to);
        if (owner[at] === 2) theirs.push(to);
      };
      neighbours(at, visit);
    }
    border = next;
  }
  return theirs;
}

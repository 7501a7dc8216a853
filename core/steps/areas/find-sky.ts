/**
 * The sky, found by itself: what is even, reaches the upper edge of the frame, and is blue or among the lightest that there is.
 * From there it is known what the sky looks like at each place, and all that looks so and lies near it is sky as well: also
 * between branches, where no way leads to the edge.
 */
import { Matrix, SingularValueDecomposition } from 'ml-matrix';
import type { FrameSize } from '../../math/frame-geometry.ts';
import { quantiles } from '../../math/quantiles.ts';
import { smoothstep } from '../../math/smoothstep.ts';
import { inArena } from '../../picture/kernels/arena.ts';
import { addressOf } from '../../picture/kernels/heap.ts';
import { kernels } from '../../picture/kernels/kernels.ts';
import type { Guide } from './guide.ts';

/** Cells along the longer edge that the look of the sky is told on. */
const LONG_EDGE = 640;
/** Cells to both sides over which evenness is told, and the stops of light and of hue that even cells differ by at most. */
const ABOUT = 2;
const EVEN = 0.13;
const EVEN_HUE = 0.17;
/** A change of so many stops over the wider span is an edge, however faint, where a good part of it comes at once. */
const SPAN = 4;
const FAINT = 0.045;
const AT_ONCE = 0.5;
/** Share of the frame that a piece of sky takes up at least, in order to be found. */
const LEAST_SHARE = 0.002;
/** Stops of blue against red from which on a piece is blue, and how far it may be darker than the lightest of the rest. */
const BLUE = 0.35;
const BLUE_DARKER = 3;
/** The same of a piece that is not blue: a closed sky is as light as anything. */
const GREY_DARKER = 0.7;
/** Stops of light and of hue that a cloud changes by from cell to cell at most; and how much darker than the sky it is. */
const SOFT = 0.06;
const SOFT_HUE = 0.07;
const CLOUD_DARKER = 0.08;
/** Cells over which a cloud meets blue sky, and the share of the step that one cell of it takes at most. */
const CLOUD_EDGE = 10;
const CLOUD_STEP = 0.42;
/** Reach, in shares of the longer edge, that the look of the sky is told over, the finest first. */
const REACHES = [0.012, 0.04];
/** Least deviations of light and hue, in stops, that the sky has. */
const LEAST_LIGHT = 0.1;
const LEAST_HUE = 0.08;
/** Deviations from which on a place is less than all sky, and none of it. */
const SURE = 2.6;
const NONE = 4;
/** How far from what is surely sky a hole may lie, in shares of the longer edge. */
const NEAR = 0.02;
const FURTHER = 0.06;
/** By how much deviations count for more beyond the nearer of the two. */
const FAR = 2;
/** Share of the frame of the largest cloud that sky closes in. */
const LARGEST_HOLE = 0.03;
/** Cells of the smallest piece that is judged as a whole, and the deviations that it may be off by in the mean. */
const LEAST_PIECE = 24;
const LIKE = 1.4;
/** Share of the frame's height below the lowest sky that a piece behind branches may begin in. */
const BELOW = 0.1;
/** How often what was found tells what lies beside it. */
const ROUNDS = 3;

interface Looks extends FrameSize {
  /** Stops of light, and of blue against red. */
  stops: Float32Array;
  hue: Float32Array;
}

/** What the sky looks like at each cell of a coarse grid. */
interface SkyLook extends FrameSize {
  light: Float32Array;
  hue: Float32Array;
  /** Deviations of both. */
  lightSpread: Float32Array;
  hueSpread: Float32Array;
  /** 1 about what is surely sky. */
  near: Float32Array;
}

/** Shares of sky in the cells of the guide, 0..1; all 0 where none is found. */
export function findSky({ grid, stops, hues: hue }: Guide): Float32Array {
  const out = new Float32Array(stops.length);
  const fine: Looks = { width: grid.width, height: grid.height, stops, hue };
  const coarse = reduced(fine);
  const parts = evenPieces(coarse);
  const seeds = skyPieces(coarse, parts);
  if (!seeds) return out;
  let look = lookOf(seeds, coarse);
  const lowest = seeds.lastIndexOf(1) + BELOW * coarse.stops.length;
  const others = parts.pieces.filter(({ cells }) => cells.length >= LEAST_PIECE && !seeds[cells[0]]);
  for (let round = 0; round < ROUNDS; round++) {
    const alike = others.filter(
      ({ cells }) => !seeds[cells[0]] && cells[0] < lowest && isLike(cells, look, coarse)
    );
    if (alike.length === 0) break;
    for (const { cells } of alike) for (const at of cells) seeds[at] = 1;
    look = lookOf(seeds, coarse);
  }
  if (growInto(seeds, look, coarse) + fillHoles(seeds, look, coarse) > 0) look = lookOf(seeds, coarse);
  // What is even by itself and not like the sky is something else, however little it differs.
  const rest = others.filter(({ cells }) => !seeds[cells[0]]);
  for (const at of closerTo(rest, seeds, coarse)) look.near[at] = 0;
  drawLike(look, fine, out);
  return out;
}

/** The cells of some pieces, and those about them that are closer to them than to seeds: an edge lies half-way between two. */
function closerTo(pieces: readonly Piece[], seeds: Uint8Array, { width, height }: FrameSize): number[] {
  const size = width * height;
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
      const column = at % width;
      const visit = (to: number): void => {
        if (owner[to] !== 0) return;
        owner[to] = owner[at];
        next.push(to);
        if (owner[at] === 2) theirs.push(to);
      };
      if (column > 0) visit(at - 1);
      if (column < width - 1) visit(at + 1);
      if (at >= width) visit(at - width);
      if (at < size - width) visit(at + width);
    }
    border = next;
  }
  return theirs;
}

/** Adds what grows lighter from the sky little by little: a cloud. How many cells those were. */
function growInto(seeds: Uint8Array, look: SkyLook, { stops, hue, width, height }: Looks): number {
  const size = width * height;
  const queue = [...seeds.keys()].filter((at) => seeds[at]);
  const before = queue.length;
  for (let n = 0; n < queue.length; n++) {
    const at = queue[n];
    const column = at % width;
    const visit = (to: number): void => {
      if (seeds[to] || look.near[to] === 0 || stops[to] < look.light[to] - CLOUD_DARKER) return;
      if (Math.abs(stops[to] - stops[at]) > SOFT || Math.abs(hue[to] - hue[at]) > SOFT_HUE) return;
      seeds[to] = 1;
      queue.push(to);
    };
    if (column > 0) visit(at - 1);
    if (column < width - 1) visit(at + 1);
    if (at >= width) visit(at - width);
    if (at < size - width) visit(at + width);
  }
  return queue.length - before;
}

/** Adds what sky closes in, if it is lighter than the sky: a cloud. How many there were. */
function fillHoles(seeds: Uint8Array, look: SkyLook, coarse: Looks): number {
  const { width, stops } = coarse;
  const shares = new Float32Array(stops.length);
  drawLike(look, coarse, shares);
  const holes = piecesOf(
    Uint8Array.from(shares, (share) => (share < 0.5 ? 1 : 0)),
    coarse
  ).pieces.filter(
    ({ cells }) =>
      cells.length < LARGEST_HOLE * stops.length &&
      cells.every((at) => at % width > 0 && at % width < width - 1 && at < stops.length - width)
  );
  let found = 0;
  for (const { cells } of holes) {
    let lighter = 0;
    for (const at of cells) lighter += stops[at] - look.light[at];
    if (lighter <= 0) continue;
    found++;
    for (const at of cells) seeds[at] = 1;
  }
  return found;
}

/** Whether a piece is, as a whole, what the sky would look like there. */
function isLike(cells: Int32Array, look: SkyLook, { stops, hue }: Looks): boolean {
  let [light, blue, near] = [0, 0, 0];
  for (const at of cells) {
    near += look.near[at];
    light += (stops[at] - look.light[at]) / look.lightSpread[at];
    blue += (hue[at] - look.hue[at]) / look.hueSpread[at];
  }
  return near > 0 && Math.hypot(light, blue) < LIKE * cells.length;
}

/** Shares of what looks like the sky near by. */
function drawLike(look: SkyLook, { width, height, stops, hue }: Looks, out: Float32Array): void {
  const at = placesBetween({ width, height }, look);
  for (let y = 0, i = 0; y < height; y++)
    for (let x = 0; x < width; x++, i++) {
      const place = at(x, y);
      const near = place(look.near);
      if (near <= 0) continue;
      // Farther from what is surely sky it has to look more like it.
      const strict = near >= 0.99 ? 1 : FAR;
      const away =
        strict *
        Math.hypot(
          (stops[i] - place(look.light)) / place(look.lightSpread),
          (hue[i] - place(look.hue)) / place(look.hueSpread)
        );
      out[i] = 1 - smoothstep(SURE, NONE, away);
    }
}

/** Means on a coarser grid. */
function reduced(fine: Looks): Looks {
  const share = Math.min(1, LONG_EDGE / Math.max(fine.width, fine.height));
  if (share === 1) return fine;
  const [width, height] = [Math.round(fine.width * share), Math.round(fine.height * share)];
  return inArena((arena) => {
    const work = addressOf(arena.float32(fine.width + 3));
    const mean = (of: Float32Array): Float32Array => {
      const [from, to] = [arena.float32(of.length), arena.float32(width * height)];
      // The kernel takes what is above 1 for light that is folded, and there is none.
      for (let i = 0; i < of.length; i++) from[i] = of[i] / FOLDED;
      kernels().averageOnto(addressOf(from), fine.width, fine.height, addressOf(to), width, height, work);
      return Float32Array.from(to, (value) => value * FOLDED);
    };
    return { width, height, stops: mean(fine.stops), hue: mean(fine.hue) };
  });
}
/** Stops are never more than this. */
const FOLDED = 64;

/** Reads planes of the coarse grid at cells of the fine one. */
function placesBetween(
  fine: FrameSize,
  { width, height }: FrameSize
): (x: number, y: number) => (plane: Float32Array) => number {
  return (x, y) => {
    const px = Math.min(width - 1, Math.max(0, ((x + 0.5) * width) / fine.width - 0.5));
    const py = Math.min(height - 1, Math.max(0, ((y + 0.5) * height) / fine.height - 0.5));
    const [cx, cy] = [Math.min(width - 2, px | 0), Math.min(height - 2, py | 0)];
    const [fx, fy] = [px - cx, py - cy];
    const at = cy * width + cx;
    return (plane) =>
      (plane[at] * (1 - fx) + plane[at + 1] * fx) * (1 - fy) +
      (plane[at + width] * (1 - fx) + plane[at + width + 1] * fx) * fy;
  };
}

interface Piece {
  cells: Int32Array;
  light: number;
  blue: number;
  /** It reaches the upper edge. */
  top: boolean;
}

interface Parts {
  /** The piece that each cell belongs to; -1: none. */
  numbers: Int32Array;
  pieces: Piece[];
}

/** Even pieces that reach the upper edge and look like a sky, as 1; null: there is none. */
function skyPieces(looks: Looks, { numbers, pieces }: Parts): Uint8Array | null {
  const size = looks.width * looks.height;
  const large = pieces.filter(({ top, cells }) => top && cells.length >= LEAST_SHARE * size);
  const every7th = Array.from({ length: Math.floor(size / 7) }, (_, i) => i * 7);
  const darker = (piece: Piece): number => {
    const number = numbers[piece.cells[0]];
    const rest = every7th.filter((i) => numbers[i] !== number);
    if (rest.length < every7th.length / 50) return 0;
    return quantiles(Float32Array.from(rest, (i) => looks.stops[i]))(0.98) - piece.light;
  };
  const blue = large.filter((piece) => piece.blue >= BLUE && darker(piece) < BLUE_DARKER);
  const blueNumbers = new Set(blue.map(({ cells }) => numbers[cells[0]]));
  const grey = large.filter(
    (piece) =>
      piece.blue < BLUE &&
      darker(piece) < GREY_DARKER &&
      (blue.length === 0 || meetsSoftly(piece, numbers, blueNumbers, looks))
  );
  if (blue.length + grey.length === 0) return null;
  const found = new Uint8Array(size);
  for (const { cells } of [...blue, ...grey]) for (const at of cells) found[at] = 1;
  return found;
}

/** Cells that are even with those about them. */
function evenCells({ stops, hue, width, height }: Looks): Uint8Array {
  const even = new Uint8Array(width * height);
  for (let y = 0, i = 0; y < height; y++)
    for (let x = 0; x < width; x++, i++) {
      const across = (of: Float32Array, reach: number): number =>
        Math.abs(of[i + Math.min(width - 1 - x, reach)] - of[i - Math.min(x, reach)]);
      const down = (of: Float32Array, reach: number): number =>
        Math.abs(of[i + width * Math.min(height - 1 - y, reach)] - of[i - width * Math.min(y, reach)]);
      const isEdge = (change: typeof across): boolean => {
        const wide = change(stops, SPAN);
        return (
          change(stops, ABOUT) > EVEN ||
          change(hue, ABOUT) > EVEN_HUE ||
          (wide > FAINT && change(stops, 1) > AT_ONCE * wide)
        );
      };
      even[i] = isEdge(across) || isEdge(down) ? 0 : 1;
    }
  return even;
}

/** Pieces of even cells. */
const evenPieces = (looks: Looks): Parts => piecesOf(evenCells(looks), looks);

/** Pieces of the cells that are 1; those that reach the upper edge first. */
function piecesOf(even: Uint8Array, { stops, hue, width, height }: Looks): Parts {
  const size = width * height;
  const numbers = new Int32Array(size).fill(-1);
  const queue = new Int32Array(size);
  const pieces: Piece[] = [];
  for (let first = 0; first < size; first++) {
    if (numbers[first] >= 0 || !even[first]) continue;
    let [count, light, blue] = [1, 0, 0];
    queue[0] = first;
    numbers[first] = pieces.length;
    const visit = (at: number): void => {
      if (numbers[at] >= 0 || !even[at]) return;
      numbers[at] = pieces.length;
      queue[count++] = at;
    };
    for (let n = 0; n < count; n++) {
      const at = queue[n];
      light += stops[at];
      blue += hue[at];
      const column = at % width;
      if (column > 0) visit(at - 1);
      if (column < width - 1) visit(at + 1);
      if (at >= width) visit(at - width);
      if (at < size - width) visit(at + width);
    }
    const cells = queue.slice(0, count);
    pieces.push({ cells, light: light / count, blue: blue / count, top: first < width });
  }
  return { numbers, pieces };
}

/** Whether a piece meets blue sky as clouds do, over several cells: what is built ends at once. */
function meetsSoftly(
  { cells }: Piece,
  numbers: Int32Array,
  blue: ReadonlySet<number>,
  { stops, width, height }: Looks
): boolean {
  const own = numbers[cells[0]];
  const steps: number[] = [];
  for (const at of cells)
    for (const [dx, dy] of [
      [1, 0],
      [-1, 0],
      [0, 1],
      [0, -1]
    ]) {
      const [x, y] = [at % width, Math.floor(at / width)];
      let [largest, reached] = [0, -1];
      for (let n = 1; n <= CLOUD_EDGE && reached < 0; n++) {
        const [px, py] = [x + n * dx, y + n * dy];
        if (px < 0 || py < 0 || px >= width || py >= height) break;
        const there = py * width + px;
        if (numbers[there] === own) break;
        largest = Math.max(largest, Math.abs(stops[there] - stops[there - dx - dy * width]));
        if (blue.has(numbers[there])) reached = there;
      }
      if (reached >= 0) steps.push(largest / Math.max(0.05, Math.abs(stops[reached] - stops[at])));
    }
  return steps.length > 0 && quantiles(Float32Array.from(steps))(0.5) < CLOUD_STEP;
}

/** A surface of the second order, by least squares over the seeds. */
function fitPlane(
  seeds: Uint8Array,
  values: (i: number) => number,
  { width, height }: FrameSize
): (i: number) => number {
  const terms = (i: number): number[] => {
    const [x, y] = [(i % width) / width - 0.5, Math.floor(i / width) / height - 0.5];
    return [1, x, y, x * x, x * y, y * y];
  };
  const [left, right] = [Matrix.zeros(6, 6), Matrix.zeros(6, 1)];
  for (let i = 0; i < seeds.length; i += 3) {
    if (!seeds[i]) continue;
    const row = terms(i);
    const value = values(i);
    row.forEach((one, j) => {
      right.set(j, 0, right.get(j, 0) + one * value);
      row.forEach((other, k) => left.set(j, k, left.get(j, k) + one * other));
    });
  }
  const found = new SingularValueDecomposition(left).solve(right).to1DArray();
  return (i) => terms(i).reduce((sum, term, j) => sum + term * found[j], 0);
}

/** What the sky looks like: means and spreads over what is surely sky about each cell, of the finest reach at which there is any. */
function lookOf(seeds: Uint8Array, { stops, hue, width, height }: Looks): SkyLook {
  const size = width * height;
  const longest = Math.max(width, height);
  return inArena((arena) => {
    const k = kernels();
    const across = addressOf(arena.float32(size + 2 * width + 16));
    const work = arena.float32(size);
    const shares = REACHES.map((reach) => {
      const radius = Math.max(2, Math.round(reach * longest));
      const share = arena.float32(size);
      share.set(seeds);
      k.boxMean(addressOf(share), width, height, radius, across, addressOf(share));
      return { radius, share };
    });
    const meansOf = (values: (i: number) => number): Float32Array => {
      const means = new Float32Array(size).fill(NaN);
      for (const { radius, share } of shares) {
        for (let i = 0; i < size; i++) work[i] = seeds[i] ? values(i) : 0;
        k.boxMean(addressOf(work), width, height, radius, across, addressOf(work));
        for (let i = 0; i < size; i++)
          if (Number.isNaN(means[i]) && share[i] > 0.05) means[i] = work[i] / share[i];
      }
      const beyond = fitPlane(seeds, values, { width, height });
      for (let i = 0; i < size; i++) if (Number.isNaN(means[i])) means[i] = beyond(i);
      return means;
    };
    const [light, blue] = [meansOf((i) => stops[i]), meansOf((i) => hue[i])];
    const spread = (of: Float32Array, mean: Float32Array, least: number): Float32Array =>
      meansOf((i) => (of[i] - mean[i]) ** 2).map((variance) =>
        Math.max(least, Math.sqrt(Math.max(0, variance)))
      );
    const [near, further] = [NEAR, FURTHER].map((share) => {
      const about = arena.float32(size);
      about.set(seeds);
      const reach = Math.max(1, Math.round(share * longest));
      k.extremes(addressOf(about), width, height, reach, 1, across, addressOf(about));
      return about;
    });
    for (let i = 0; i < size; i++) near[i] = Math.max(near[i], further[i] / 2);
    return {
      width,
      height,
      light,
      hue: blue,
      lightSpread: spread(stops, light, LEAST_LIGHT),
      hueSpread: spread(hue, blue, LEAST_HUE),
      near: new Float32Array(near)
    };
  });
}

/** What the kernels of developing have to compute, in plain words and double precision: for tests alone. */
import { type Lateral, lateralShift } from '../../optics/lens-model.ts';
import { foldHighlight } from '../tile/highlights.ts';
import type { Planes } from '../tile/planes.ts';
import { type RootLoss, mosaicRoot } from './mosaic-root.ts';
import type { Mosaic, SiteColour } from './mosaic.ts';
import { rebuildClipped } from './rebuild-clipped.oracle.ts';

/** More than any step looks about a pixel; even. */
const PAD = 32;
const RUN = 16;

type Picture = Float64Array;

const reflect = (index: number, size: number): number => {
  while (index < 0 || index >= size) index = index < 0 ? -index : 2 * (size - 1) - index;
  return index;
};

const compress = (value: number, floor: number): number =>
  value >= 0 ? Math.sqrt(value + floor) : Math.sqrt(floor) + value / (2 * Math.sqrt(floor));

const expand = (root: number, floor: number): number =>
  root >= Math.sqrt(floor) ? root * root - floor : (root - Math.sqrt(floor)) * 2 * Math.sqrt(floor);

/** With what was lost by the root. */
function regain(value: number, floor: number, { dark, light }: RootLoss): number {
  const above = Math.max(0, value);
  return value + (dark + light * above) / (above + floor);
}

/** Weighted sum of the values `by` apart about each, as many before as after. */
function filtered(picture: Picture, weights: readonly number[], by: number): Picture {
  const reach = (weights.length - 1) / 2;
  return picture.map((_, at) =>
    weights.reduce((sum, weight, k) => sum + weight * (picture[at + (k - reach) * by] ?? 0), 0)
  );
}

const BELL = [4, 9, 15, 23, 26, 23, 15, 9, 4].map((weight) => weight / 128);
const NINTH = new Array<number>(9).fill(1 / 9);

/** Best estimate of the green difference in a direction, and its variance. */
function directional(picture: Picture, isGreen: (at: number) => boolean, by: number): [Picture, Picture] {
  const other = filtered(picture, [-0.25, 0.5, 0.5, 0.5, -0.25], by);
  const difference = picture.map((own, at) => (isGreen(at) ? own - other[at] : other[at] - own));
  const smooth = filtered(difference, BELL, by);
  const mean = filtered(smooth, NINTH, by);
  const square = filtered(
    smooth.map((value) => value * value),
    NINTH,
    by
  );
  const noise = filtered(
    difference.map((value, at) => (value - smooth[at]) ** 2),
    NINTH,
    by
  );
  const estimate = new Float64Array(picture.length);
  const variance = new Float64Array(picture.length);
  for (let at = 0; at < picture.length; at++) {
    const signal = Math.max(0, square[at] - mean[at] ** 2) + 1e-9;
    const error = noise[at] + 1e-9;
    estimate[at] = (smooth[at] * error + difference[at] * signal) / (signal + error);
    variance[at] = (signal * error) / (signal + error);
  }
  return [estimate, variance];
}

function catmullRom(f: number): [number, number, number, number] {
  return [
    -0.5 * f ** 3 + f ** 2 - 0.5 * f,
    1.5 * f ** 3 - 2.5 * f ** 2 + 1,
    -1.5 * f ** 3 + 2 * f ** 2 + 0.5 * f,
    0.5 * f ** 3 - 0.5 * f ** 2
  ];
}

/** The whole picture's planes, not turned. */
export function developPlainly(mosaic: Mosaic, out: Planes): void {
  const { data, stride, left, top, width, height, pattern, black, white, multipliers } = mosaic;
  const span = width + 2 * PAD;
  const rows = height + 2 * PAD;
  const colourAt = (row: number, x: number): SiteColour => pattern[((row & 1) << 1) | (x & 1)];
  const balanced = new Float32Array(span * rows);
  for (let row = 0; row < rows; row++)
    for (let x = 0; x < span; x++) {
      const [px, py] = [reflect(x - PAD, width), reflect(row - PAD, height)];
      const value = data[(py + top) * stride + left + px] - black;
      balanced[row * span + x] = (value * multipliers[colourAt(py, px)]) / (white - black);
    }
  const sumOf = (at: number, places: number[][]): number =>
    places.reduce((sum, [dx, dy]) => sum + (balanced[at + dy * span + dx] ?? Infinity), 0);
  /** How far the sites about one are from those two beyond: beside, above and below, and those of its own colour. */
  const unevennessAt = (at: number): number =>
    Math.abs(
      sumOf(at, [[-1, 0], [1, 0]]) - sumOf(at, [[-1, -2], [1, -2], [-1, 2], [1, 2]]) / 2 // prettier-ignore
    ) +
    Math.abs(
      sumOf(at, [[0, -1], [0, 1]]) - sumOf(at, [[-2, -1], [-2, 1], [2, -1], [2, 1]]) / 2 // prettier-ignore
    ) +
    Math.abs(
      sumOf(at, [[-2, 0], [2, 0], [0, -2], [0, 2]]) - sumOf(at, [[-2, -2], [2, -2], [-2, 2], [2, 2]]) // prettier-ignore
    );
  const cool = balanced.map((value, at) => {
    const near = [at - 2, at + 2, at - 2 * span, at + 2 * span].map((place) => balanced[place] ?? Infinity);
    const rise = value - Math.max(...near);
    const bright = value >= 0.04 && near.every((each) => value >= each * 1.25 + 0.04);
    const hot = bright && unevennessAt(at) <= 0.45 * rise;
    return hot ? near.reduce((sum, each) => sum + each, 0) / 4 : value;
  });
  const root = mosaicRoot(mosaic);
  const rebuilt = rebuildClipped(cool, span, rows, multipliers, colourAt);
  const picture = Float64Array.from(rebuilt, (value) => compress(foldHighlight(value), root.floor));

  const isGreen = (at: number): boolean => colourAt(Math.floor(at / span), at % span) === 1;
  const { lateral } = mosaic;
  const unit = Math.hypot(width, height) / 2;
  /** A site's place from the middle, and how much larger a colour's picture is there. */
  const placed = (at: number, sizes: Lateral['red']): [dx: number, dy: number, size: number] => {
    const dy = Math.floor(at / span) - PAD + 0.5 - height / 2;
    const dx = Math.floor(((at % span) - PAD) / RUN) * RUN + RUN / 2 - width / 2;
    return [dx, dy, lateralShift(sizes, Math.hypot(dx, dy) / unit)];
  };
  const sample = (from: Picture, at: number, [sx, sy]: [number, number], apart: number): number => {
    const [wx, wy] = [catmullRom(sx - Math.floor(sx)), catmullRom(sy - Math.floor(sy))];
    let sum = 0;
    for (let j = 0; j < 4; j++)
      for (let i = 0; i < 4; i++)
        sum +=
          wx[i] *
          wy[j] *
          (from[at + apart * ((Math.floor(sy) - 1 + j) * span + Math.floor(sx) - 1 + i)] ?? 0);
    return sum;
  };
  const aligned = lateral
    ? picture.map((own, at) => {
        if (isGreen(at)) return own;
        const colour = colourAt(Math.floor(at / span), at % span);
        const [dx, dy, size] = placed(at, colour === 0 ? lateral.red : lateral.blue);
        return sample(picture, at, [(dx * size) / 2, (dy * size) / 2], 2);
      })
    : picture;
  const [across, acrossDoubt] = directional(aligned, isGreen, 1);
  const [down, downDoubt] = directional(aligned, isGreen, span);
  const green = aligned.map((own, at) => {
    if (isGreen(at)) return own;
    const near = [at - 1, at + 1, at - span, at + span].map((place) => aligned[place] ?? 0);
    const [low, high] = [Math.min(...near), Math.max(...near)];
    const slack = (high - low) / 2;
    const difference =
      (across[at] * downDoubt[at] + down[at] * acrossDoubt[at]) / (acrossDoubt[at] + downDoubt[at]);
    return Math.min(high + slack, Math.max(low - slack, own + difference));
  });

  const shifted = (sizes: Lateral['red']): Picture =>
    green.map((_, at) => {
      const [dx, dy, size] = placed(at, sizes);
      return sample(green, at, [(-dx * size) / (1 + size), (-dy * size) / (1 + size)], 1);
    });
  const [greenR, greenB] = lateral ? [shifted(lateral.red), shifted(lateral.blue)] : [green, green];

  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const at = (y + PAD) * span + x + PAD;
      const valueOf = (colour: 0 | 2): number => {
        const own = colourAt(y, x);
        if (own === colour) return picture[at];
        const plane = colour === 0 ? greenR : greenB;
        const difference = (place: number): number => picture[place] - plane[place];
        if (own === 1) {
          const by = colourAt(y, x + 1) === colour ? 1 : span;
          return plane[at] + (difference(at - by) + difference(at + by)) / 2;
        }
        const [nw, ne, sw, se] = [at - span - 1, at - span + 1, at + span - 1, at + span + 1];
        const bend = (one: number, two: number): number =>
          Math.abs(picture[one] - picture[two]) + Math.abs(2 * plane[at] - plane[one] - plane[two]) + 1e-7;
        const [falling, rising] = [bend(nw, se), bend(ne, sw)];
        return (
          plane[at] +
          (rising * (difference(nw) + difference(se)) + falling * (difference(ne) + difference(sw))) /
            (2 * (rising + falling))
        );
      };
      const to = y * width + x;
      out.r[to] = regain(expand(valueOf(0), root.floor), root.floor, root.red);
      out.g[to] = expand(green[at], root.floor);
      out.b[to] = regain(expand(valueOf(2), root.floor), root.floor, root.blue);
    }
}

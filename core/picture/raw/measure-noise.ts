/**
 * The noise of a sensor, measured in one of its pictures: in small blocks of sites of one colour the second differences along rows
 * and columns, which no slow light and no straight edge along them adds to, tell a variance (Immerkær 1996); at each level of
 * light the plainest blocks have noise alone; a line through those is the noise of photons and of reading (Foi et al. 2008).
 */
import type { Noise } from '../../optics/noise.ts';
import type { Mosaic } from './mosaic.ts';

/** Sites of one colour across and down a block, and blocks across the picture at most. */
const BLOCK = 12;
const MOST_ACROSS = 160;
/** Levels of light, evenly by the root, and blocks that a level has to have to tell anything. */
const LEVELS = 24;
const LEAST_BLOCKS = 12;
/** Light beyond which sites clip. */
const BRIGHTEST = 0.9;
/** Of the blocks of a level, plainest first, that at this share is taken; of plain ones all are alike but for chance. */
const PLAINEST = 0.2;
/** By what a block's variance at that share falls below the mean of plain blocks, for so many differences. */
const CHANCE = 0.88;
/** Share of the differences' weights squared: (1, -2, 1). */
const WEIGHTS = 6;

interface Block {
  mean: number;
  variance: number;
}

/** Mean and variance of a block of one colour, whose first site is at (x, y). */
function blockAt({ data, stride, left, top, black, white }: Mosaic, x: number, y: number): Block {
  const start = (top + y) * stride + left + x;
  const scale = 1 / (white - black);
  let [sum, squares, count] = [0, 0, 0];
  for (let j = 0; j < BLOCK; j++)
    for (let i = 0; i < BLOCK; i++) {
      const at = start + 2 * j * stride + 2 * i;
      sum += data[at];
      for (const by of [2, 2 * stride]) {
        if (by === 2 ? i === 0 || i === BLOCK - 1 : j === 0 || j === BLOCK - 1) continue;
        squares += (data[at - by] - 2 * data[at] + data[at + by]) ** 2;
        count++;
      }
    }
  return {
    mean: (sum / BLOCK ** 2 - black) * scale,
    variance: ((squares / count) * scale * scale) / WEIGHTS
  };
}

/** Null where too little of the picture is plain to tell. */
export function measureNoise(mosaic: Mosaic): Noise | null {
  const { width, height } = mosaic;
  const step = 2 * Math.max(BLOCK, Math.ceil(width / MOST_ACROSS / 2));
  const levels: Block[][] = Array.from({ length: LEVELS }, () => []);
  for (let y = 0; y + 2 * BLOCK + 2 <= height; y += step)
    for (let x = 0; x + 2 * BLOCK + 2 <= width; x += step)
      for (const [dx, dy] of [
        [0, 0],
        [1, 0],
        [0, 1],
        [1, 1]
      ]) {
        const block = blockAt(mosaic, x + dx, y + dy);
        if (block.mean > BRIGHTEST) continue;
        levels[Math.floor(Math.sqrt(Math.max(0, block.mean)) * LEVELS)].push(block);
      }
  const points = levels
    .filter((blocks) => blocks.length >= LEAST_BLOCKS)
    .map((blocks) => {
      blocks.sort((one, other) => one.variance - other.variance);
      const { mean, variance } = blocks[Math.floor(PLAINEST * blocks.length)];
      return { mean: Math.max(0, mean), variance: variance / CHANCE };
    });
  const line = points.length < 2 ? null : fitted(points);
  return line && { ...line, multipliers: mosaic.multipliers };
}

/** Where reading does not add the most even to the darkest level, at most such a share of what photons add there is its. */
const UNTOLD = 0.25;

/** The line through the levels by least squares of relative differences, so that textured ones weigh little. */
function fitted(points: readonly Block[]): Noise | null {
  let [ww, wm, wmm, wv, wmv] = [0, 0, 0, 0, 0];
  for (const { mean, variance } of points) {
    const weight = 1 / Math.max(1e-14, variance) ** 2;
    ww += weight;
    wm += weight * mean;
    wmm += weight * mean * mean;
    wv += weight * variance;
    wmv += weight * mean * variance;
  }
  const determinant = ww * wmm - wm * wm;
  if (!(determinant > 0)) return null;
  const gain = (ww * wmv - wm * wv) / determinant;
  const dark = (wmm * wv - wm * wmv) / determinant;
  const darkest = gain * Math.min(...points.map(({ mean }) => mean));
  if (gain > 0 && dark >= 0)
    return { gain, read: Math.sqrt(dark > darkest ? dark : Math.min(dark, UNTOLD * darkest)) };
  // All of one kind, then.
  return gain > 0 ? { gain: wmv / wmm, read: 0 } : null;
}

/** The texture of grain: noise that goes on at its other side, and its means over ever larger squares for smaller pictures. */
import { gaussianWeights } from '../../../math/gaussian-weights.ts';
import { gaussian, seededRandom } from '../../../math/random.ts';

export interface GrainLevel {
  /** Places across and down: 2 to this power. */
  shift: number;
  /** Row by row. */
  values: Float32Array;
}

const SHIFT = 9;
/** Down to squares of so many places. */
const SMALLEST = 4;
const SEED = 1839;
/** Deviations of the blurs, in places, that fine and uneven grain are made by. */
const GRAIN = 0.75;
const UNEVEN = 2.2;
/** Share of the uneven at full roughness. */
const MOST_UNEVEN = 0.8;

const deviationOf = (values: Float32Array | readonly number[]): number => {
  let [sum, squares] = [0, 0];
  for (const value of values) {
    sum += value;
    squares += value * value;
  }
  return Math.sqrt(squares / values.length - (sum / values.length) ** 2);
};

/** Noise blurred over a square that goes on at its other side, of mean 0 and deviation 1. */
function blurredNoise(random: () => number, blur: number): Float32Array {
  const size = 1 << SHIFT;
  const { weights, reach } = gaussianWeights(blur);
  let values = Float32Array.from({ length: size * size }, () => gaussian(random));
  for (const along of [1, size]) {
    const from = values;
    const across = along === 1 ? size : 1;
    values = new Float32Array(size * size);
    for (let line = 0; line < size; line++)
      for (let i = 0; i < size; i++) {
        let sum = 0;
        for (let k = -reach; k <= reach; k++)
          sum += weights[k + reach] * from[line * across + ((i + k) & (size - 1)) * along];
        values[line * across + i * along] = sum;
      }
  }
  const deviation = deviationOf(values);
  return values.map((value) => value / deviation);
}

/** `roughness`: 0..1, from even grains to uneven ones. The first level has a deviation of 1. */
export function grainLevels(roughness: number): GrainLevel[] {
  const random = seededRandom(SEED);
  const [fine, uneven] = [blurredNoise(random, GRAIN), blurredNoise(random, UNEVEN)];
  const share = MOST_UNEVEN * roughness;
  let values = fine.map((value, i) => value * Math.sqrt(1 - share * share) + uneven[i] * share);
  const levels: GrainLevel[] = [];
  for (let shift = SHIFT; shift >= SMALLEST; shift--) {
    levels.push({ shift, values });
    const size = 1 << (shift - 1);
    const from = values;
    values = Float32Array.from({ length: size * size }, (_, i) => {
      const at = (i >> (shift - 1)) * 4 * size + (i & (size - 1)) * 2;
      return (from[at] + from[at + 1] + from[at + 2 * size] + from[at + 2 * size + 1]) / 4;
    });
  }
  return levels;
}

/** Places that a strength is measured at, and parts across and down a pixel that stand for it. */
const MEASURED = 2500;
const PARTS = 4;

/** The value of a level at a place of it, between its four neighbours; it goes on at its other side. */
function valueAt({ shift, values }: GrainLevel, x: number, y: number): number {
  const mask = (1 << shift) - 1;
  const [column, row] = [Math.floor(x), Math.floor(y)];
  const [across, down] = [x - column, y - row];
  const at = (i: number, j: number): number => values[((j & mask) << shift) + (i & mask)];
  const upper = at(column, row) * (1 - across) + at(column + 1, row) * across;
  const lower = at(column, row + 1) * (1 - across) + at(column + 1, row + 1) * across;
  return upper * (1 - down) + lower * down;
}

/** What a picture reads of a level: every `step` places from a first one on. */
export interface Read {
  level: number;
  first: readonly [number, number];
  step: number;
}

/** How strong the mean over a pixel of so many places is, against what is read in its stead. */
export function meanStrength(
  levels: readonly GrainLevel[],
  places: number,
  { level, first, step }: Read
): number {
  const random = seededRandom(SEED);
  const size = 1 << SHIFT;
  const some = (): number => Math.floor(random() * size);
  const [means, read]: number[][] = [[], []];
  for (let n = 0; n < MEASURED; n++) {
    const [x, y] = [random() * size, random() * size];
    let sum = 0;
    for (let i = 0; i < PARTS ** 2; i++) {
      const [across, down] = [i % PARTS, Math.floor(i / PARTS)].map(
        (part) => ((part + 0.5) / PARTS - 0.5) * places
      );
      sum += valueAt(levels[0], x + across, y + down);
    }
    means.push(sum / PARTS ** 2);
    read.push(valueAt(levels[level], first[0] + some() * step, first[1] + some() * step));
  }
  return deviationOf(means) / deviationOf(read);
}

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

const deviationOf = (values: Float32Array): number => {
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

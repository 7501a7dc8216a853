/**
 * Noise taken out of planes of light. Under the root of light above the noise of reading, noise is alike everywhere (Anscombe
 * 1948); light and the differences of colours from green are worked on apart, scale by scale, against what the sensor's own noise is
 * there.
 */
import type { FrameFacts } from '../../../optics/frame-facts.ts';
import { type Noise, noiseOf } from '../../../optics/noise.ts';
import type { Arena } from '../../../picture/kernels/arena.ts';
import { addressOf } from '../../../picture/kernels/heap.ts';
import { kernels } from '../../../picture/kernels/kernels.ts';
import { type Planes, addresses } from '../../../picture/tile/planes.ts';
import { type FinishSettings, SENSORS_OWN } from '../step.ts';
import { noiseEnergies } from './noise-energies.ts';

export interface NoiseData {
  noise: Noise;
  /** Variance that is taken for noise, in that of the sensor: of light, of its finest scale, and of colour. */
  light: number;
  finest: number;
  colour: number;
}

/** What is taken for noise where the sensor's own is asked for, in variances of it: most of it is lost for the least of the picture. */
const TAKEN = 2;
/** Scales of a picture at full size, each twice as coarse: blotches of 32 pixels are the largest that are seen. */
const SCALES = 5;
/** Scales after which every second pixel tells all that there is. */
const FINE = 2;
/** Of the planes that are worked on, that of light: a first estimate helps it most, and colour hardly. */
const LIGHT = 1;
/** Enlarged further than this, nothing is told apart any more. */
const MOST_ENLARGED = 4;

export function noiseDataOf(
  { noise, noiseDetail, noiseColour }: Pick<FinishSettings, 'noise' | 'noiseDetail' | 'noiseColour'>,
  facts: Pick<FrameFacts, 'noise' | 'rendering' | 'iso'>
): NoiseData {
  const light = (TAKEN * noise) / SENSORS_OWN;
  return {
    noise: noiseOf(facts),
    light,
    finest: light * (1 - noiseDetail / 100),
    colour: (TAKEN * noiseColour) / SENSORS_OWN
  };
}

const scalesAt = (scale: number): number =>
  Math.max(1, Math.round(SCALES + Math.log2(Math.min(MOST_ENLARGED, scale))));

/** Pixels to each side of what lies between every second one. */
const CUBIC = 3;

/** Pixels that one is made of to each side, at so many for one of the sensor: of the splines, and of the energies about it. */
export function noiseReach(scale: number): number {
  const scales = scalesAt(scale);
  return 2 * (2 ** scales - 1) + 2 ** (scales - 1) + CUBIC;
}

/**
 * Planes whose width is a multiple of four, in place; `scale`: pixels of theirs for one of the sensor. After `fine`
 * scales every second pixel is worked on, from the first one on: parts of one picture are alike if all begin at even places.
 */
export function shrinkPlanes(
  planes: Planes,
  scale: number,
  { noise, light, finest, colour }: NoiseData,
  arena: Arena,
  fine = FINE
): void {
  const { width, height } = planes;
  const { gain, read, multipliers = [1, 1, 1] as const } = noise;
  const scales = scalesAt(scale);
  const ofSensor = Math.min(1, scale);
  // What lies between the sensor's own pixels has no noise of its own.
  const empty = Math.max(0, scales - scalesAt(1));
  const energies = noiseEnergies({
    multipliers,
    scale: Math.round(ofSensor * 64) / 64,
    scales: scales - empty
  });
  const { fromRootsApart, shrinkNoise, toRootsApart } = kernels();
  const [r, g, b] = addresses(planes);
  const floors = arena.addressOf(multipliers.map((each) => (each * read ** 2) / gain));
  toRootsApart(r, g, b, width * height, floors);
  const [wide, tall] = [Math.ceil(width / 8) * 4, Math.ceil(height / 2)];
  const work = addressOf(arena.float32((6 * height + 1) * width + (9 * tall + 1) * wide + 32));
  [r, g, b].forEach((plane, i) => {
    const explained = energies.scales[i].map(
      (energy, at) => energy * gain * (i === LIGHT ? (at === 0 ? finest : light) : colour)
    );
    if (!explained.some((energy) => energy > 0)) return;
    const each = arena.addressOf([...Array.from({ length: empty }, () => 0), ...explained]);
    shrinkNoise(plane, width, height, scales, fine, each, Number(i === LIGHT), work);
  });
  // A mean of roots, squared, is less than the mean of squares by their variance.
  const lost = Math.min(1, light / TAKEN);
  const gained = arena.addressOf(energies.colours.map((energy) => energy * gain * lost));
  fromRootsApart(r, g, b, width * height, floors, gained);
}

/**
 * What a sensor's noise is after demosaicing, scale by scale: measured on an even grey that is made up with noise and developed as
 * pictures are, since demosaicing ties the noise of neighbours together, and white balance makes colours differ.
 */
import { gaussian, seededRandom } from '../../../math/random.ts';
import { inArena } from '../../../picture/kernels/arena.ts';
import { addressOf } from '../../../picture/kernels/heap.ts';
import { kernels } from '../../../picture/kernels/kernels.ts';
import { developBand } from '../../../picture/raw/develop.ts';
import { addresses, givePlanesBack, takePlanes } from '../../../picture/tile/planes.ts';
import { keepingLast } from '../../../settings/keeping-last.ts';

/** All for a gain of 1, as variances of roots. */
export interface NoiseEnergies {
  /** Of the differences of each scale: of red less green, of their mean, and of blue less green. */
  scales: readonly [number[], number[], number[]];
  /** Of red, green and blue. */
  colours: readonly [number, number, number];
}

/** Sites across and down, and those at the edges that are not looked at. */
const SIZE = 320;
const EDGE = 24;
const LIGHT = 0.25;
const GAIN = 4e-4;
const SEED = 1974;
const [BLACK, WHITE] = [2000, 62000];
const PATTERN = [0, 1, 1, 2] as const;

type Three = readonly [number, number, number];
type Plane = Float32Array;

/** An even grey, developed, whose values have the noise of photons alone. */
function developedGrey(multipliers: Three): Plane[] {
  const random = seededRandom(SEED);
  const least = Math.min(...multipliers);
  const data = Uint16Array.from({ length: SIZE * SIZE }, (_, i) => {
    const colour = PATTERN[((Math.floor(i / SIZE) & 1) << 1) | ((i % SIZE) & 1)];
    const light = (LIGHT * least) / multipliers[colour];
    const value = light + gaussian(random) * Math.sqrt(GAIN * light);
    return Math.round(BLACK + (WHITE - BLACK) * value);
  });
  const planes = takePlanes(SIZE, SIZE);
  try {
    const own = multipliers.map((each) => each / least) as [number, number, number];
    developBand(
      {
        ...{ data, stride: SIZE, left: 0, top: 0, width: SIZE, height: SIZE, turns: 0 },
        ...{ pattern: PATTERN, black: BLACK, white: WHITE, multipliers: own }
      },
      planes,
      0,
      SIZE
    );
    return [planes.r, planes.g, planes.b].map((plane) => plane.slice());
  } finally {
    givePlanesBack(planes);
  }
}

/** A square plane at another scale of at most 1, as means over the area of its pixels. */
function reduced(plane: Plane, from: number, to: number): Plane {
  if (from === to) return plane;
  const along = (
    source: Plane,
    lines: number,
    stride: number,
    step: number,
    out: Plane,
    outStride: number,
    outStep: number
  ): void => {
    for (let line = 0; line < lines; line++)
      for (let i = 0; i < to; i++) {
        const [first, last] = [(i * from) / to, ((i + 1) * from) / to];
        let sum = 0;
        for (let k = Math.floor(first); k < Math.min(from, Math.ceil(last)); k++)
          sum += source[line * stride + k * step] * (Math.min(last, k + 1) - Math.max(first, k));
        out[line * outStride + i * outStep] = (sum * to) / from;
      }
  };
  const across = new Float32Array(from * to);
  along(plane, from, from, 1, across, to, 1);
  const out = new Float32Array(to * to);
  along(across, to, 1, to, out, 1, to);
  return out;
}

const varianceOf = (values: readonly number[]): number => {
  const mean = values.reduce((sum, value) => sum + value, 0) / values.length;
  return values.reduce((sum, value) => sum + (value - mean) ** 2, 0) / values.length;
};

/** Variances of the differences of a square plane from one scale to the next. */
function energiesOf(plane: Plane, size: number, scales: number): number[] {
  return inArena((arena) => {
    let values = arena.float32(size * size);
    let next = arena.float32(size * size);
    const [apart, row] = [arena.float32(size * size), arena.float32(size)];
    values.set(plane);
    return Array.from({ length: scales }, (_, scale) => {
      const [from, to] = [values, next].map(addressOf);
      kernels().partScale(from, to, addressOf(apart), size, size, 1 << scale, addressOf(row));
      [values, next] = [next, values];
      const inner: number[] = [];
      for (let y = EDGE; y < size - EDGE; y++)
        for (let x = EDGE; x < size - EDGE; x++) inner.push(apart[y * size + x]);
      return varianceOf(inner);
    });
  });
}

/** `scale`: pixels of the picture for one of the sensor, at most 1. */
export const noiseEnergies = keepingLast(
  ({ multipliers, scale, scales }: { multipliers: Three; scale: number; scales: number }): NoiseEnergies => {
    const size = Math.max(64, Math.round((SIZE * scale) / 4) * 4);
    const planes = developedGrey(multipliers).map((plane) => reduced(plane, SIZE, size));
    return inArena((arena) => {
      const own = takePlanes(size, size);
      try {
        [own.r, own.g, own.b].forEach((plane, c) => plane.set(planes[c]));
        const colours = [own.r, own.g, own.b].map(
          (plane) => varianceOf(Array.from(plane, (value) => Math.sqrt(Math.max(0, value)))) / GAIN
        );
        kernels().toRootsApart(...addresses(own), size * size, arena.addressOf([0, 0, 0]));
        const apart = [own.r, own.g, own.b].map((plane) =>
          energiesOf(plane, size, scales).map((energy) => energy / GAIN)
        );
        return {
          scales: [apart[0], apart[1], apart[2]],
          colours: [colours[0], colours[1], colours[2]]
        };
      } finally {
        givePlanesBack(own);
      }
    });
  }
);

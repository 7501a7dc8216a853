/**
 * Noise taken out of developed planes, before the geometry. Under the root of light above the noise of reading, noise is alike
 * everywhere (Anscombe 1948); light and the differences of colours from green are worked on apart, scale by scale, against what
 * the sensor's own noise is there.
 */
import type { FrameFacts } from '../../../optics/frame-facts.ts';
import { type Noise, noiseOf } from '../../../optics/noise.ts';
import { inArena } from '../../../picture/kernels/arena.ts';
import { addressOf } from '../../../picture/kernels/heap.ts';
import { kernels } from '../../../picture/kernels/kernels.ts';
import type { PlacedPlanes } from '../../../picture/tile/planes.ts';
import type { SensorRectangle } from '../../../picture/tile/sensor-rectangle.ts';
import type { SourceStage } from '../../../picture/tile/stage.ts';
import type { FinishSettings } from '../step.ts';
import { noiseEnergies } from './noise-energies.ts';

interface Given {
  recipe: { finish: FinishSettings };
  facts: Pick<FrameFacts, 'noise' | 'rendering' | 'iso'>;
}

export interface NoiseData {
  noise: Noise;
  /** Variance that is taken for noise, in that of the sensor: of light, of its finest scale, and of colour. */
  light: number;
  finest: number;
  colour: number;
}

/** Scales of a picture at full size, each twice as coarse: blotches of 32 pixels are the largest that are seen. */
const SCALES = 5;
/** What is taken for noise at 100 %, in variances of it: at half of that the most of it is lost for the least of the picture. */
const MOST_LIGHT = 4;
const MOST_COLOUR = 4;

/** Of the planes that are worked on, that of light: a first estimate helps it most, and colour hardly. */
const LIGHT = 1;

/** Pixels that one is made of to each side: of the splines, and of the energies about it. */
const reachOf = (scales: number): number => 2 * (2 ** scales - 1) + 2 ** (scales - 1);

export const noiseStage: SourceStage<'noise', Given, NoiseData> = {
  name: 'noise',
  kind: 'source',
  prepare({ recipe: { finish }, facts }) {
    const { enabled, noise, noiseDetail, noiseColour } = finish;
    if (!enabled || (noise === 0 && noiseColour === 0)) return null;
    const light = (MOST_LIGHT * noise) / 100;
    return [
      {
        noise: noiseOf(facts),
        light,
        finest: light * (1 - noiseDetail / 100),
        colour: (MOST_COLOUR * noiseColour) / 100
      }
    ];
  },
  needs: ({ left, top, right, bottom }) => {
    const reach = reachOf(SCALES);
    return [{ left: left - reach, top: top - reach, right: right + reach, bottom: bottom + reach }];
  },
  apply(from, out, data) {
    // What was asked for beyond the picture is not there: the larger of the two holds all that is.
    takeNoiseOut(from[from.length - 1], out, data);
  }
};

/** Columns and rows of planes about others, by so many pixels and as far as they are there. */
function about(planes: PlacedPlanes, out: PlacedPlanes, reach: number): SensorRectangle {
  const left = Math.round((out.originX - planes.originX) * out.scaleX);
  const top = Math.round((out.originY - planes.originY) * out.scaleY);
  return {
    left: Math.max(0, left - reach),
    top: Math.max(0, top - reach),
    right: Math.min(planes.width, left + out.width + reach),
    bottom: Math.min(planes.height, top + out.height + reach)
  };
}

function takeNoiseOut(planes: PlacedPlanes, out: PlacedPlanes, data: NoiseData): void {
  const { noise, light, finest, colour } = data;
  const { gain, read, multipliers = [1, 1, 1] as const } = noise;
  const scale = Math.min(1, out.scaleX);
  const scales = Math.max(1, Math.round(SCALES + Math.log2(scale)));
  const energies = noiseEnergies({ multipliers, scale: Math.round(scale * 64) / 64, scales });
  const part = about(planes, out, reachOf(scales));
  const [wide, height] = [part.right - part.left, part.bottom - part.top];
  const width = Math.ceil(wide / 4) * 4;
  inArena((arena) => {
    const all = [0, 1, 2].map(() => arena.float32(width * height));
    (['r', 'g', 'b'] as const).forEach((name, c) => {
      for (let y = 0; y < height; y++) {
        const at = (part.top + y) * planes.width + part.left;
        const row = all[c].subarray(y * width, (y + 1) * width);
        row.set(planes[name].subarray(at, at + wide));
        row.fill(row[wide - 1], wide);
      }
    });
    const { fromRootsApart, shrinkNoise, toRootsApart } = kernels();
    const [r, g, b] = all.map(addressOf);
    const floors = arena.addressOf(multipliers.map((each) => (each * read ** 2) / gain));
    toRootsApart(r, g, b, width * height, floors);
    const work = addressOf(arena.float32((7 * height + 1) * width));
    [r, g, b].forEach((plane, i) => {
      const explained = energies.scales[i].map(
        (energy, at) => energy * gain * (i === LIGHT ? (at === 0 ? finest : light) : colour)
      );
      if (explained.some((energy) => energy > 0))
        shrinkNoise(plane, width, height, scales, arena.addressOf(explained), Number(i === LIGHT), work);
    });
    // A mean of roots, squared, is less than the mean of squares by their variance.
    const lost = Math.min(1, light / (MOST_LIGHT / 2));
    const gained = arena.addressOf(energies.colours.map((energy) => energy * gain * lost));
    fromRootsApart(r, g, b, width * height, floors, gained);
    const left = Math.round((out.originX - planes.originX) * out.scaleX) - part.left;
    const top = Math.round((out.originY - planes.originY) * out.scaleY) - part.top;
    (['r', 'g', 'b'] as const).forEach((name, c) => {
      for (let y = 0; y < out.height; y++) {
        const at = (top + y) * width + left;
        out[name].set(all[c].subarray(at, at + out.width), y * out.width);
      }
    });
  });
}

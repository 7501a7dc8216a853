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
import { type SensorRectangle, extentOf, pixelsOf } from '../../../picture/tile/sensor-rectangle.ts';
import type { SourceStage } from '../../../picture/tile/stage.ts';
import { type FinishSettings, SENSORS_OWN } from '../step.ts';
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
/** What is taken for noise where the sensor's own is asked for, in variances of it: most of it is lost for the least of the picture. */
const TAKEN = 2;

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
    const light = (TAKEN * noise) / SENSORS_OWN;
    return [
      {
        noise: noiseOf(facts),
        light,
        finest: light * (1 - noiseDetail / 100),
        colour: (TAKEN * noiseColour) / SENSORS_OWN
      }
    ];
  },
  needs: (made) => [grown(made, reachOf(SCALES))],
  apply(from, out, data) {
    // What was asked for beyond the picture is not there: the larger of the two holds all that is.
    takeNoiseOut(from[from.length - 1], out, data);
  }
};

/** A rectangle larger by so many pixels on each side. */
const grown = ({ left, top, right, bottom }: SensorRectangle, by: number): SensorRectangle => ({
  left: left - by,
  top: top - by,
  right: right + by,
  bottom: bottom + by
});

function takeNoiseOut(planes: PlacedPlanes, out: PlacedPlanes, data: NoiseData): void {
  const { noise, light, finest, colour } = data;
  const { gain, read, multipliers = [1, 1, 1] as const } = noise;
  const scale = Math.min(1, out.scaleX);
  const scales = Math.max(1, Math.round(SCALES + Math.log2(scale)));
  const energies = noiseEnergies({ multipliers, scale: Math.round(scale * 64) / 64, scales });
  const made = extentOf(out);
  const own = pixelsOf(planes, made);
  const part = pixelsOf(planes, grown(made, reachOf(scales) / scale));
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
    const lost = Math.min(1, light / TAKEN);
    const gained = arena.addressOf(energies.colours.map((energy) => energy * gain * lost));
    fromRootsApart(r, g, b, width * height, floors, gained);
    (['r', 'g', 'b'] as const).forEach((name, c) => {
      for (let y = 0; y < out.height; y++) {
        const at = (own.top - part.top + y) * width + own.left - part.left;
        out[name].set(all[c].subarray(at, at + out.width), y * out.width);
      }
    });
  });
}

/**
 * Grain, added to the root of light. It lies on the frame at one place and of one size, whatever the size of the picture: a
 * smaller one shows its means, as if the larger one had been reduced.
 */
import { kernels } from '../../../picture/kernels/kernels.ts';
import { addresses } from '../../../picture/tile/planes.ts';
import type { PixelStage } from '../../../picture/tile/stage.ts';
import { keepingLast } from '../../../settings/keeping-last.ts';
import type { FinishSettings } from '../step.ts';
import { grainLevels } from './grain-texture.ts';

interface Given {
  recipe: { finish: FinishSettings };
}

export interface GrainData {
  /** Standard deviation in the root of light, in the middle between black and white. */
  amount: number;
  /** Upright units between places of the texture. */
  place: number;
  roughness: number;
}

const MOST = 0.045;
/** A pixel of a frame of 24 MP, in upright units. */
const PIXEL = 1 / 3606;
/** Percent after which grain is twice as large. */
const TWICE = 25;
/** Upright units by which all places lie above 0, as the kernel wants them. */
const BEYOND = 64;

const levelsOf = keepingLast(grainLevels);

export const grainStage: PixelStage<'grain', Given, GrainData> = {
  name: 'grain',
  kind: 'pixel',
  prepare({ recipe: { finish } }) {
    const { enabled, grain, grainSize, grainRoughness } = finish;
    if (!enabled || grain === 0) return null;
    return {
      amount: (MOST * grain) / 100,
      place: PIXEL * 2 ** (grainSize / TWICE),
      roughness: grainRoughness / 100
    };
  },
  begin({ view }, { amount, place, roughness }, arena) {
    const pixel = view.pixel / place;
    const levels = levelsOf(roughness);
    // The level whose places are next below a pixel; rounding must not take the one before.
    const n = Math.min(levels.length - 1, Math.max(0, Math.floor(Math.log2(pixel) + 1e-6)));
    const level = levels[n];
    const texture = arena.addressOf(level.values);
    const step = pixel / 2 ** n;
    const beyond = BEYOND / (place * 2 ** n);
    // A texture's place stands for its square's middle.
    const placeOf = (along: number): number => along / place / 2 ** n - 0.5 + beyond;
    const size = 1 << level.shift;
    const { addGrain } = kernels();
    return (rows) => {
      const [r, g, b] = addresses(rows);
      for (let row = 0; row < rows.height; row++) {
        const x = placeOf(view.left + (rows.left + 0.5) * view.pixel);
        const y = placeOf(view.top + (rows.top + row + 0.5) * view.pixel);
        const at = row * rows.width * 4;
        addGrain(r + at, g + at, b + at, rows.width, texture, level.shift, x % size, y % size, step, amount);
      }
    };
  }
};

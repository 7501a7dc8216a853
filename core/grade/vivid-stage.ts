/** Saturation and vibrance, in OKLab: lightness and hue stay. */
import { LAB_TO_ROOTS, REC2020_TO_LMS, ROOTS_TO_LAB } from '../colour/oklab.ts';
import { kernels } from '../kernels/kernels.ts';
import { invert3 } from '../math/matrix3.ts';
import { addresses } from '../tile/planes.ts';
import type { PixelStage } from '../tile/tile.ts';
import type { ColourSettings } from './step.ts';

interface Given {
  recipe: { colour: ColourSettings };
}

export interface VividData {
  /** Chroma times this; 1 keeps it. */
  saturation: number;
  /** By how much more what is nearly grey gains; 0 keeps it. */
  vibrance: number;
}

/** The chroma from which vibrance does nothing. */
const VIVID = 0.25;
/** The hue of skin, brick and wood in OKLab, which vibrance spares, in degrees. */
const SPARED_HUE = 55;

const ANGLE = (SPARED_HUE * Math.PI) / 180;
const MATRICES = [...REC2020_TO_LMS, ...ROOTS_TO_LAB, ...LAB_TO_ROOTS, ...invert3(REC2020_TO_LMS)];

export const vividStage: PixelStage<'vivid', Given, VividData> = {
  name: 'vivid',
  kind: 'pixel',
  prepare: ({ recipe: { colour } }) =>
    colour.enabled && (colour.saturation !== 0 || colour.vibrance !== 0)
      ? { saturation: 1 + colour.saturation / 100, vibrance: colour.vibrance / 100 }
      : null,
  begin(_, { saturation, vibrance }, arena) {
    const numbers = arena.addressOf([
      ...MATRICES,
      saturation,
      vibrance,
      VIVID,
      Math.cos(ANGLE),
      Math.sin(ANGLE)
    ]);
    const { vividColours } = kernels();
    return (rows) => vividColours(...addresses(rows), rows.r.length, numbers);
  }
};

/** The numbers that the kernel of colours in OKLab takes beside its tables. */
import { LAB_TO_ROOTS, REC2020_TO_LMS, ROOTS_TO_LAB } from '../../colour/oklab.ts';
import { REC2020_TO_SRGB } from '../../colour/primaries.ts';
import { invert3 } from '../../math/matrix3.ts';
import type { ColourSettings } from './step.ts';

/** The chroma from which vibrance does nothing, and that from which a hue is lightened in full. */
const VIVID = 0.25;
const COLOURFUL = 0.1;
/** The hue of skin, brick and wood in OKLab, which vibrance spares, in degrees. */
const SPARED_HUE = 55;

const ANGLE = (SPARED_HUE * Math.PI) / 180;
const MATRICES = [...REC2020_TO_LMS, ...ROOTS_TO_LAB, ...LAB_TO_ROOTS, ...invert3(REC2020_TO_LMS)];

type Strengths = Pick<ColourSettings, 'saturation' | 'vibrance' | 'monoRed' | 'monoGreen' | 'monoBlue'>;

/** Weights of grey, in percent of sRGB's light, as weights of the working space's. */
function greyWeights({ monoRed, monoGreen, monoBlue }: Strengths): number[] {
  const shares = [monoRed, monoGreen, monoBlue].map((percent) => percent / 100);
  return [0, 1, 2].map((c) => shares.reduce((sum, share, i) => sum + share * REC2020_TO_SRGB[i * 3 + c], 0));
}

export const gradeNumbers = (strengths: Strengths): number[] => [
  ...MATRICES,
  1 + strengths.saturation / 100,
  strengths.vibrance / 100,
  VIVID,
  Math.cos(ANGLE),
  Math.sin(ANGLE),
  ...greyWeights(strengths),
  COLOURFUL
];

/** Those that leave the strength of colours as it is. */
export const PLAIN_NUMBERS: readonly number[] = gradeNumbers({
  saturation: 0,
  vibrance: 0,
  monoRed: 0,
  monoGreen: 0,
  monoBlue: 0
});

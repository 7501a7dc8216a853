import equal from 'fast-deep-equal';
import { type Levels, toneSchema } from './step.ts';

/** Black and white are at least this far apart. */
const NARROWEST = 1 / 1024;

export const isLevel = (levels: Levels): boolean => equal(levels, toneSchema.properties.levels.default);

/** Levels as a function of what is shown, 0..1 to 0..1: ends cut and the middle bent by a power, then brought between the out ends. */
export function levelsCurve(levels: Levels): (shown: number) => number {
  if (isLevel(levels)) return (shown) => shown;
  const { black, middle, outBlack, outWhite } = levels;
  const span = Math.max(NARROWEST, levels.white - black);
  return (shown) => {
    const share = Math.min(1, Math.max(0, (shown - black) / span));
    return outBlack + (outWhite - outBlack) * share ** (1 / middle);
  };
}

import type { Levels } from './step.ts';

/** Black and white are at least this far apart. */
const NARROWEST = 1 / 1024;

const NEUTRAL: Levels = { black: 0, middle: 1, white: 1, outBlack: 0, outWhite: 1 };

export const isLevel = (levels: Levels): boolean =>
  (Object.keys(NEUTRAL) as (keyof Levels)[]).every((name) => levels[name] === NEUTRAL[name]);

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

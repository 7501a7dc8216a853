import type { FringeColour } from '../fringe/remove-fringe.ts';
import type { LensSettings } from './step.ts';

/** The two fringe colours as a recipe sets them; none when the step is off or nothing is to be taken away. */
export function frameFringes(lens: LensSettings): FringeColour[] {
  if (!lens.enabled) return [];
  return [
    { amount: lens.fringeOne / 100, hue: lens.fringeOneHue, range: lens.fringeOneRange },
    { amount: lens.fringeTwo / 100, hue: lens.fringeTwoHue, range: lens.fringeTwoRange }
  ].filter((colour) => colour.amount > 0);
}

/** Removal of thin coloured borders, as the Lens step asks for it. */
import { FRINGE_WIDTH, type FringeColour, fringeMargin, removeFringe } from './remove-fringe.ts';
import type { Matrix3 } from '../../math/matrix3.ts';
import type { NeighbourhoodStage } from '../../picture/tile/stage.ts';
import type { LensSettings } from './step.ts';

interface Given {
  recipe: { lens: LensSettings };
  facts: { toWorking: Matrix3 };
}

export interface FringeData {
  colours: FringeColour[];
  toWorking: Matrix3;
}

/** The two fringe colours as a recipe sets them. */
function coloursOf(lens: LensSettings): FringeColour[] {
  if (!lens.enabled) return [];
  return [
    { amount: lens.fringeOne / 100, hue: lens.fringeOneHue, range: lens.fringeOneRange },
    { amount: lens.fringeTwo / 100, hue: lens.fringeTwoHue, range: lens.fringeTwoRange }
  ].filter((colour) => colour.amount > 0);
}

export const fringeStage: NeighbourhoodStage<'fringe', Given, FringeData> = {
  name: 'fringe',
  kind: 'neighbourhood',
  atRestOnly: () => true,
  prepare({ recipe, facts: { toWorking } }) {
    const colours = coloursOf(recipe.lens);
    return colours.length > 0 ? { colours, toWorking } : null;
  },
  reach: (_, pixel) => fringeMargin(FRINGE_WIDTH / pixel),
  apply: (tile, data) => removeFringe(tile, { ...data, width: FRINGE_WIDTH / tile.view.pixel })
};

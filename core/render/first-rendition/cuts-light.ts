/**
 * The first rendition cut light above white, colour by colour, where nothing that was set brought it back or let it fade.
 */
import { FIRST_RENDITION, type Rendition } from '../../settings/rendition.ts';
import { type BalanceFacts, balanceOf } from '../../steps/colour/balance-stage.ts';
import type { ColourSettings } from '../../steps/colour/step.ts';
import { type ToneSettings, tonesAnything } from '../../steps/tone/step.ts';

interface Given {
  facts: BalanceFacts;
  recipe: { rendition: Rendition; tone: ToneSettings; colour: ColourSettings };
}

export const cutsLight = ({ facts, recipe }: Given): boolean =>
  recipe.rendition === FIRST_RENDITION && !tonesAnything(recipe.tone) && balanceOf(recipe, facts) === null;

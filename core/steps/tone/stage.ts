/**
 * Scene to display. Colours are multiplied by what tone makes of their light, so that hues stay, and by the same rule from nothing
 * set to everything. What comes out above white goes to white at its hue; the curves of what is shown follow.
 */
import { STEPS, tabulate } from '../../colour/look-up-table.ts';
import { gamutNumbers } from '../../colour/oklab.ts';
import { REC2020_TO_SRGB } from '../../colour/primaries.ts';
import { IDENTITY } from '../../math/matrix3.ts';
import type { Rendering } from '../../optics/frame-facts.ts';
import { kernels } from '../../picture/kernels/kernels.ts';
import { addresses } from '../../picture/tile/planes.ts';
import type { PixelStage } from '../../picture/tile/stage.ts';
import { keepingLast } from '../../settings/keeping-last.ts';
import { FIRST_RENDITION, type Rendition } from '../../settings/rendition.ts';
import { RESPONSES } from './base-curve.ts';
import { shownCurves } from './shown-curves.ts';
import { type ToneSettings, tonesAnything, untouchedTone } from './step.ts';
import { type Bending, bendingOf, gainOf, shownLight } from './toned-light.ts';

interface Given {
  facts: { rendering: Rendering };
  recipe: { rendition: Rendition; tone: ToneSettings };
}

export interface ToneData {
  response: keyof typeof RESPONSES;
  settings: ToneSettings;
}

/** Light beyond this, in shares of white, is multiplied like it. */
const MOST_LIGHT = 8;
const gainsOf = keepingLast(({ response, bending }: { response: ToneData['response']; bending: Bending }) => {
  const gain = gainOf(shownLight(bending, RESPONSES[response]));
  return tabulate((share) => gain(share * MOST_LIGHT));
});

const INTO_WORKING = gamutNumbers(IDENTITY);

export const toneStage: PixelStage<'tone', Given, ToneData> = {
  name: 'tone',
  kind: 'pixel',
  prepare({ facts, recipe: { rendition, tone } }) {
    if (rendition === FIRST_RENDITION) return null;
    const settings = tonesAnything(tone) ? tone : null;
    if (facts.rendering === 'scene')
      return { response: settings?.rendering ?? 'plain', settings: settings ?? untouchedTone() };
    // Finished pictures are of a display already.
    return settings && { response: 'none', settings: { ...settings, rendering: 'plain' } };
  },
  begin(_, { response, settings }, arena) {
    const gains = arena.addressOf(gainsOf({ response, bending: bendingOf(settings) }));
    const toSrgb = arena.addressOf(REC2020_TO_SRGB);
    const curves = shownCurves(settings, arena);
    const intoWorking = arena.addressOf(INTO_WORKING);
    const { mapIntoGamut, scaleByNorm } = kernels();
    return (rows) => {
      const { length } = rows.r;
      const planes = addresses(rows);
      scaleByNorm(...planes, length, toSrgb, gains, STEPS, MOST_LIGHT);
      mapIntoGamut(...planes, length, intoWorking);
      for (const curve of curves) curve(rows);
    };
  }
};

import type { HeldBands } from '$core/steps/tone/held-bands.ts';
import type { CurveName, ToneSettings } from '$core/steps/tone/step.ts';
import type { Suggestion } from '$core/steps/tone/suggest-tone.ts';
import { stepView } from '../parts/step-view.ts';

export type TonePage = 'light' | 'local' | 'bands' | 'levels' | 'curve';

export const toneView = stepView(() => {
  const view = $state({
    page: 'light' as TonePage,
    /** A drag on the picture changes what lies there: of the curve, or of its band. */
    picking: false,
    curve: 'curve' as CurveName,
    /** What tone by itself last said, and the bands that the picture holds. */
    said: '',
    /** What all of tone was before it was set by itself, what was found, and how much of that is taken, in percent. */
    itself: null as { before: ToneSettings; found: Suggestion; amount: number } | null,
    held: null as HeldBands | null,
    /** The band, or the place of the curve, that the pointer is on. */
    pointed: null as number | null
  });
  return view;
});

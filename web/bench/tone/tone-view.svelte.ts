import type { HeldBands } from '$core/steps/tone/held-bands.ts';
import type { CurveName } from '$core/steps/tone/step.ts';
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
    held: null as HeldBands | null,
    /** The band, or the place of the curve, that the pointer is on. */
    pointed: null as number | null
  });
  return view;
});

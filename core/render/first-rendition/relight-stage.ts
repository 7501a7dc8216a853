/** Tone that looks about as the first rendition had it. */
import { FIRST_RENDITION } from '../../settings/rendition.ts';
import { keepingLast } from '../../settings/keeping-last.ts';
import { VEIL_STEPS } from '../../steps/tone/clear-haze.ts';
import { relightStageOf } from '../../steps/tone/relight-stage.ts';
import type { ToneSettings } from '../../steps/tone/step.ts';
import { relightTable } from './relight.ts';

/** The largest share of haze that was taken away. */
const MOST_HAZE = 0.9;
/** The share of haze at which its removal began when only the farthest was meant. */
const FARTHEST = 0.7;

function veilTable({ haze, hazeDepth }: ToneSettings): Float32Array {
  const begins = FARTHEST * (1 - hazeDepth / 100);
  return Float32Array.from({ length: VEIL_STEPS + 2 }, (_, i) => {
    const thick = (Math.min(1, i / VEIL_STEPS) - begins) / (1 - begins);
    return ((MOST_HAZE * haze) / 100) * Math.max(0, thick);
  });
}

export const firstRelightStage = relightStageOf('first-relight', {
  rendition: FIRST_RENDITION,
  stops: keepingLast(relightTable),
  veils: keepingLast(veilTable),
  leastCleared: 0,
  local: { mostDetail: [0.8, 0.6, 0.5], layered: false, held: [1, 0] }
});

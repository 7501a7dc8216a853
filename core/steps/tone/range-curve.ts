/**
 * A high range of light brought into that of a display: even steps of stops between a black and a white, bent so that the
 * middle is shown as the middle grey is by every rendering.
 */
import { srgbDecode, srgbEncode } from '../../colour/srgb-transfer.ts';
import { SHOWN_GREY } from './base-curve.ts';
import { MIDDLE_GREY } from './middle-grey.ts';
import { pointCurve } from './point-curve.ts';
import type { ToneSettings } from './step.ts';

/** White and black are at least this far from the middle, in stops. */
const NEAREST = 0.25;

/** Scene-linear light to the display-linear one that shows it, 0..1; `grey`: what the middle is shown as. */
export function rangeCurve(
  { rangeWhite, rangeBlack, rangeMiddle }: Pick<ToneSettings, 'rangeWhite' | 'rangeBlack' | 'rangeMiddle'>,
  grey = SHOWN_GREY
): (light: number) => number {
  const white = Math.max(rangeWhite, rangeMiddle + NEAREST);
  const black = Math.min(rangeBlack, rangeMiddle - NEAREST);
  const shareOf = (stops: number): number => (stops - black) / (white - black);
  const bend = pointCurve([{ x: shareOf(rangeMiddle), y: srgbEncode(grey) }]);
  return (light) => {
    if (light <= 0) return 0;
    const share = shareOf(Math.log2(light / MIDDLE_GREY));
    return srgbDecode(bend(Math.min(1, Math.max(0, share))));
  };
}

/** What of a histogram lies under a curve: the light that it acts on, or one colour of it. */
import type { CurveName } from '$core/steps/tone/step.ts';
import type { Histogram } from '../../preview/messages.ts';

const OF_COLOUR: Partial<Record<CurveName, 0 | 1 | 2>> = { curveRed: 0, curveGreen: 1, curveBlue: 2 };

export function curveCounts(
  which: CurveName,
  histogram: Pick<Histogram, 'counts' | 'luminance'> | null
): readonly number[] {
  const colour = OF_COLOUR[which];
  return (colour === undefined ? histogram?.luminance : histogram?.counts[colour]) ?? [];
}

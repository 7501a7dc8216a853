/**
 * The base curves of raw pictures: scene-linear to display-linear.
 *
 * The photoreceptor response of Naka & Rushton (1966), scaled so that 1 stays 1 and the middle grey is shown alike by all: a lift
 * of the midtones (sensors are exposed to keep highlights) and a soft shoulder, with a toe where it is steep.
 */
import { MIDDLE_GREY } from './middle-grey.ts';

export interface Response {
  /** Steepness about the middle: above 1 there is a toe. */
  exponent: number;
  /** Light at which half of the (unscaled) response is reached: lower lifts the midtones. */
  half: number;
}

/** What the middle grey is shown as by a response of 0..1. */
const shownBy = (light: number, { exponent, half }: Response): number => {
  const pivot = half ** exponent;
  const raised = light ** exponent;
  return (raised * (1 + pivot)) / (raised + pivot);
};

const PLAIN: Response = { exponent: 1.15, half: 0.8 };
/** The light of a display that shows the middle grey, by every rendering: half a stop and a little lighter than it is. */
export const SHOWN_GREY = shownBy(MIDDLE_GREY, PLAIN);

/** The response of a steepness that shows the middle grey as the plain one does. */
function alike(exponent: number): Response {
  const raised = MIDDLE_GREY ** exponent;
  const pivot = (raised * (1 - SHOWN_GREY)) / (SHOWN_GREY - raised);
  return { exponent, half: pivot ** (1 / exponent) };
}

/** By the rendering that is asked for; null: light is shown as it is, or by a curve of its own. */
export const RESPONSES: Record<'plain' | 'flat' | 'soft' | 'firm' | 'range' | 'none', Response | null> = {
  plain: PLAIN,
  flat: alike(0.9),
  soft: alike(1.02),
  firm: alike(1.4),
  // Its own curve comes before.
  range: null,
  // Pictures of a display already.
  none: null
};

/** Light of 0 and more, as shown; above white the curve goes on straight. */
export function baseCurve(linear: number, response: Response | null = RESPONSES.plain): number {
  if (!response || linear <= 0) return Math.max(0, linear);
  if (linear <= 1) return shownBy(linear, response);
  const pivot = response.half ** response.exponent;
  return 1 + ((linear - 1) * response.exponent * pivot) / (1 + pivot);
}

/** The light up to white that a base curve shows as `shown`. */
export function inverseBaseCurve(shown: number, response: Response | null): number {
  if (shown <= 0) return 0;
  if (shown >= 1) return 1;
  if (!response) return shown;
  const pivot = response.half ** response.exponent;
  return ((shown * pivot) / (1 + pivot - shown)) ** (1 / response.exponent);
}

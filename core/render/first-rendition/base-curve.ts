/**
 * The base curves of raw pictures in the first rendition, whose middle greys differed. The photoreceptor response of Naka & Rushton (1966), scaled so that 1 stays 1: a slight toe, a lift of the midtones
 * (sensors are exposed to keep highlights) and a soft shoulder.
 */
export interface Response {
  /** Steepness about the middle: above 1 there is a toe. */
  exponent: number;
  /** Light at which half of the (unscaled) response is reached: lower lifts the midtones. */
  half: number;
}

/** By the rendering that is asked for; null leaves light as it is. The plain one lifts by about half a stop. */
export const RESPONSES: Record<'plain' | 'flat' | 'soft' | 'firm' | 'range', Response | null> = {
  plain: { exponent: 1.15, half: 0.8 },
  flat: null,
  // Its own curve comes before.
  range: null,
  soft: { exponent: 1, half: 0.7 },
  firm: { exponent: 1.5, half: 0.62 }
};

export function baseCurve(linear: number, response: Response | null = RESPONSES.plain): number {
  if (linear <= 0) return 0;
  if (linear >= 1) return 1;
  if (!response) return linear;
  const half = response.half ** response.exponent;
  const raised = linear ** response.exponent;
  return (raised * (1 + half)) / (raised + half);
}

/** The light that a base curve shows as `shown`. */
export function inverseBaseCurve(shown: number, response: Response | null): number {
  if (shown <= 0) return 0;
  if (shown >= 1) return 1;
  if (!response) return shown;
  const half = response.half ** response.exponent;
  return ((shown * half) / (1 + half - shown)) ** (1 / response.exponent);
}

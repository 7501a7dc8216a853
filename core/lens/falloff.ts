/**
 * Falloff of light towards the corners as an even polynomial of the field radius (Goldman 2010 and the
 * usual open calibration data use the same form): transmitted light = 1 + v1 r² + v2 r⁴ + v3 r⁶.
 */
export type FalloffTerms = readonly [number, number, number];

/** Least transmission taken as real; a profile that goes below it would only amplify noise. */
const DARKEST = 1 / 64;

/** Share of light that reaches squared field radius r2, the centre being 1. */
export function transmission(terms: FalloffTerms, r2: number): number {
  return Math.max(DARKEST, 1 + r2 * (terms[0] + r2 * (terms[1] + r2 * terms[2])));
}

/** Gain that undoes the falloff; `amount` scales it in EV, so that 1 is the whole correction. */
export function falloffGain(terms: FalloffTerms, r2: number, amount: number): number {
  return transmission(terms, r2) ** -amount;
}

/** Falloff in the corners against the centre, in EV (negative is darker), after correcting by `amount`. */
export function cornerFalloff(terms: FalloffTerms, amount: number): number {
  return Math.log2(transmission(terms, 1)) * (1 - amount);
}

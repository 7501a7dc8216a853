/**
 * Radial lens distortion after Brown (1966, 1971), three terms, in field units:
 *
 *   d = u (1 + k1 r² + k2 r⁴ + k3 r⁶),  r = |u|
 *
 * u is where a perfect lens would put a point, d is where the glass put it. Undistorted to distorted
 * is the direction rendering needs, and it has a closed form; the inverse is found by Newton's method.
 */
import type { Point } from '../camera/frame-geometry.ts';

export type RadialTerms = readonly [number, number, number];

/** Radii beyond this are never on a sensor whose corners lie on the unit circle. */
const SEARCH_RADIUS = 4;

/** A radial model ready for use, with the radius up to which it is monotonic. */
export interface RadialModel {
  k: RadialTerms;
  /** Largest undistorted radius for which the model still grows; beyond it, it is continued straight. */
  limit: number;
  /** Distorted radius at the limit. */
  limitDistorted: number;
}

export const NO_DISTORTION: RadialModel = { k: [0, 0, 0], limit: Infinity, limitDistorted: Infinity };

/** Distorted over undistorted radius. */
export function radialFactor(k: RadialTerms, r2: number): number {
  return 1 + r2 * (k[0] + r2 * (k[1] + r2 * k[2]));
}

function radialSlope(k: RadialTerms, r: number): number {
  const r2 = r * r;
  return 1 + r2 * (3 * k[0] + r2 * (5 * k[1] + r2 * 7 * k[2]));
}

/**
 * Prepares a model: finds the first radius at which it stops growing (to 1e-9).
 * `amount` scales the terms (1 is the measured lens).
 */
export function radialModel(terms: RadialTerms, amount = 1): RadialModel {
  const k: RadialTerms = [terms[0] * amount, terms[1] * amount, terms[2] * amount];
  if (k.every((term) => term === 0)) return NO_DISTORTION;
  // The slope is a cubic in r²: scanning finely, then bisecting, cannot miss a root wide enough to matter.
  const steps = 400;
  let last = 0;
  for (let i = 1; i <= steps; i++) {
    const r = (SEARCH_RADIUS * i) / steps;
    if (radialSlope(k, r) <= 0.02) {
      let low = last;
      let high = r;
      for (let n = 0; n < 40; n++) {
        const middle = (low + high) / 2;
        if (radialSlope(k, middle) <= 0.02) high = middle;
        else low = middle;
      }
      return { k, limit: low, limitDistorted: low * radialFactor(k, low * low) };
    }
    last = r;
  }
  return { k, limit: SEARCH_RADIUS, limitDistorted: SEARCH_RADIUS * radialFactor(k, SEARCH_RADIUS ** 2) };
}

/** True when the model can be inverted over the whole frame (out to its corners, plus a little). */
export function coversFrame(model: RadialModel): boolean {
  return model.limitDistorted >= 1.001;
}

/** Distorted radius over undistorted radius at squared undistorted radius r2, continued straight beyond the limit. */
export function distortionFactor(model: RadialModel, r2: number): number {
  if (r2 <= model.limit * model.limit) return radialFactor(model.k, r2);
  const r = Math.sqrt(r2);
  return (model.limitDistorted + (r - model.limit)) / r;
}

/** Where the glass puts a point: undistorted to distorted field position. */
export function distort([x, y]: Point, model: RadialModel): Point {
  const factor = distortionFactor(model, x * x + y * y);
  return [x * factor, y * factor];
}

/** Undistorted radius of a distorted one, by Newton's method kept inside a bracket; exact to about 1e-13. */
export function undistortRadius(distorted: number, model: RadialModel): number {
  if (distorted === 0 || model === NO_DISTORTION) return distorted;
  if (distorted >= model.limitDistorted) return model.limit + (distorted - model.limitDistorted);
  let low = 0;
  let high = model.limit;
  let r = Math.min(distorted, high);
  for (let i = 0; i < 60; i++) {
    const error = r * radialFactor(model.k, r * r) - distorted;
    if (Math.abs(error) < 1e-14) break;
    if (error > 0) high = r;
    else low = r;
    const next = r - error / radialSlope(model.k, r);
    r = next > low && next < high ? next : (low + high) / 2;
  }
  return r;
}

/** Where a perfect lens would have put a point: distorted to undistorted field position. */
export function undistort([x, y]: Point, model: RadialModel): Point {
  const distorted = Math.hypot(x, y);
  if (distorted === 0) return [0, 0];
  const factor = undistortRadius(distorted, model) / distorted;
  return [x * factor, y * factor];
}

/**
 * What a lens does to the places of things, in field units:
 *
 *   rectilinear radius r → projected radius p (for fisheyes) → distorted radius  d = p (1 + Σ cᵢ pⁱ),  i = 1…6
 *
 * The even powers alone are Brown's radial model (1966, 1971); the lower powers together are the "a, b, c" and the
 * third- and fifth-order models of open calibration data. Decentring (Brown's tangential terms) is added to it.
 * Red and blue have pictures of their own size: their radii are (1 + Σ lᵢ dⁱ) times the green one's, i = 0…4.
 *
 * Undistorted to distorted is the direction rendering needs, and it has a closed form; the inverse is found by Newton's
 * method inside a bracket.
 */
import type { Point } from '../math/frame-geometry.ts';
import { type LensProjection, projectRadius, projectSlope } from './lens-projection.ts';

/** Coefficients of r¹…r⁶; shorter lists end in zeros. */
export type RadialTerms = readonly number[];

export interface Lateral {
  /** Coefficients of r⁰…r⁴ of the red picture's relative size against the green one's, less 1. */
  red: readonly number[];
  blue: readonly number[];
}

/** Plain figures of a lens, ready to be stored or sent. */
export interface LensShape {
  projection: LensProjection;
  /** Focal length in field units; of use for fisheyes only. */
  focal: number;
  terms: RadialTerms;
  /** Optical centre in field units. */
  centre: Point;
  /** Brown's p1 and p2, for field units. */
  tangential: readonly [number, number];
}

export interface LensModel extends LensShape {
  /** Share of the correction: 1 is the whole lens, 0 none. */
  amount: number;
  lateral: Lateral | null;
  /** Largest undistorted radius for which the model still grows; beyond it, it is continued straight. */
  limit: number;
  /** Distorted radius at the limit. */
  limitDistorted: number;
}

/** Largest undistorted radius looked at for rectilinear lenses: never on a sensor whose corners lie on the unit circle. */
const SEARCH_RADIUS = 4;
/** Largest angle from the axis that a flat picture can usefully show, as tan θ. */
const WIDEST_TANGENT = 12;
/** A model that grows more slowly than this has folded, for all that pixels are concerned. */
const LEAST_SLOPE = 0.02;

export const NO_DISTORTION: LensModel = {
  projection: 'rectilinear',
  focal: 1,
  terms: [],
  centre: [0, 0],
  tangential: [0, 0],
  amount: 1,
  lateral: null,
  limit: Infinity,
  limitDistorted: Infinity
};

/** Value of Σ cᵢ rⁱ, i = 1…n. */
function seriesAt(terms: RadialTerms, r: number): number {
  let sum = 0;
  for (let i = terms.length - 1; i >= 0; i--) sum = (sum + terms[i]) * r;
  return sum;
}

/** Slope of r (1 + Σ cᵢ rⁱ). */
function seriesSlope(terms: RadialTerms, r: number): number {
  let sum = 0;
  for (let i = terms.length - 1; i >= 0; i--) sum = (sum + (i + 2) * terms[i]) * r;
  return 1 + sum;
}

function wholeRadius(shape: LensShape, r: number): number {
  const p = projectRadius(r, shape.projection, shape.focal);
  return p * (1 + seriesAt(shape.terms, p));
}

function radiusAt(shape: LensShape, amount: number, r: number): number {
  return r + amount * (wholeRadius(shape, r) - r);
}

function slopeAt(shape: LensShape, amount: number, r: number): number {
  const p = projectRadius(r, shape.projection, shape.focal);
  const whole = seriesSlope(shape.terms, p) * projectSlope(r, shape.projection, shape.focal);
  return 1 + amount * (whole - 1);
}

/** First radius in (0, end] at which a function falls to a level, by scanning and bisection; null when it never does. */
function firstBelow(of: (r: number) => number, level: number, end: number): number | null {
  // Slopes are smooth: a fine scan cannot miss a dip wide enough to matter. Steps grow outwards, as fisheyes need.
  const steps = 500;
  let last = 0;
  for (let i = 1; i <= steps; i++) {
    const r = end * (i / steps) ** 1.5;
    if (of(r) <= level) {
      let low = last;
      let high = r;
      for (let n = 0; n < 45; n++) {
        const middle = (low + high) / 2;
        if (of(middle) <= level) high = middle;
        else low = middle;
      }
      return low;
    }
    last = r;
  }
  return null;
}

export function lensShape(given: Partial<LensShape> = {}): LensShape {
  const { projection = 'rectilinear', focal = 1, terms = [], centre = [0, 0], tangential = [0, 0] } = given;
  return { projection, focal, terms, centre, tangential };
}

/** Prepares a model: finds how far out it can be inverted. `amount` scales the correction (1 is the whole lens). */
export function lensModel(given: Partial<LensShape>, amount = 1, lateral: Lateral | null = null): LensModel {
  const shape = lensShape(given);
  const still =
    shape.projection === 'rectilinear' &&
    shape.terms.every((term) => term === 0) &&
    shape.tangential.every((term) => term === 0);
  if (still || amount === 0) return { ...NO_DISTORTION, centre: shape.centre, lateral };
  const fisheye = shape.projection !== 'rectilinear';
  const end = fisheye ? shape.focal * WIDEST_TANGENT : SEARCH_RADIUS;
  // A fisheye's slope in the flat picture falls towards nothing by its nature; only a real turn counts there.
  const level = fisheye ? 1e-3 : LEAST_SLOPE;
  const limit = firstBelow((r) => slopeAt(shape, amount, r), level, end) ?? end;
  return { ...shape, amount, lateral, limit, limitDistorted: radiusAt(shape, amount, limit) };
}

/**
 * Field radius, as the glass put it, at which a model turns back inside the frame (or just outside its corners); null
 * when it does not. A profile that turns back cannot be used.
 */
export function foldRadius(given: Partial<LensShape>, amount = 1): number | null {
  const shape = lensShape(given);
  // The fisheye's own law never turns back within what it can see: its polynomial may.
  const flat: LensShape = { ...shape, projection: 'rectilinear' };
  const fold = firstBelow((r) => slopeAt(flat, amount, r), LEAST_SLOPE, SEARCH_RADIUS);
  if (fold === null) return null;
  const radius = radiusAt(flat, amount, fold);
  return radius < 1.001 ? radius : null;
}

/** A fisheye's rays further from the axis than this, as tan θ (66°), would be stretched out of all use in a flat picture. */
const WIDEST_SHOWN = 2.25;

/** Undistorted radius beyond which nothing is shown: a fisheye sees further than a flat picture reaches. */
export function shownRadius(model: LensModel): number {
  return model.projection === 'rectilinear' ? Infinity : Math.min(model.limit, model.focal * WIDEST_SHOWN);
}

/** Distorted radius of an undistorted one, continued straight beyond the limit. */
export function distortRadius(r: number, model: LensModel): number {
  return r <= model.limit ? radiusAt(model, model.amount, r) : model.limitDistorted + (r - model.limit);
}

/** Undistorted radius of a distorted one; exact to about 1e-13. */
export function undistortRadius(distorted: number, model: LensModel): number {
  if (distorted === 0 || model.limit === Infinity) return distorted;
  if (distorted >= model.limitDistorted) return model.limit + (distorted - model.limitDistorted);
  let low = 0;
  let high = model.limit;
  let r = Math.min(distorted, high);
  for (let i = 0; i < 80; i++) {
    const error = radiusAt(model, model.amount, r) - distorted;
    if (Math.abs(error) < 1e-14) break;
    if (error > 0) high = r;
    else low = r;
    const next = r - error / slopeAt(model, model.amount, r);
    r = next > low && next < high ? next : (low + high) / 2;
  }
  return r;
}

/** Decentring shift at a place relative to the optical centre (Brown 1966). */
function tangentialShift(x: number, y: number, { tangential, amount }: LensModel): Point {
  const [p1, p2] = tangential;
  if (p1 === 0 && p2 === 0) return [0, 0];
  const r2 = x * x + y * y;
  return [
    amount * (2 * p1 * x * y + p2 * (r2 + 2 * x * x)),
    amount * (p1 * (r2 + 2 * y * y) + 2 * p2 * x * y)
  ];
}

/** Where the glass puts a point (of green light): undistorted to distorted field position. */
export function distort([x, y]: Point, model: LensModel): Point {
  const [cx, cy] = model.centre;
  const dx = x - cx;
  const dy = y - cy;
  const r = Math.hypot(dx, dy);
  const factor = r === 0 ? 1 : distortRadius(r, model) / r;
  const [tx, ty] = tangentialShift(dx, dy, model);
  return [cx + dx * factor + tx, cy + dy * factor + ty];
}

/** Where a perfect lens would have put a point: distorted to undistorted field position. */
export function undistort([x, y]: Point, model: LensModel): Point {
  const [cx, cy] = model.centre;
  const radial = (dx: number, dy: number): Point => {
    const d = Math.hypot(dx, dy);
    const factor = d === 0 ? 1 : undistortRadius(d, model) / d;
    return [dx * factor, dy * factor];
  };
  let [ux, uy] = radial(x - cx, y - cy);
  if (model.tangential[0] !== 0 || model.tangential[1] !== 0) {
    // Decentring is a small fraction of the radial part: the fixed point is near within a few rounds.
    for (let i = 0; i < 60; i++) {
      const [tx, ty] = tangentialShift(ux, uy, model);
      const [nx, ny] = radial(x - cx - tx, y - cy - ty);
      const moved = Math.abs(nx - ux) + Math.abs(ny - uy);
      [ux, uy] = [nx, ny];
      if (moved < 1e-12) break;
    }
  }
  return [cx + ux, cy + uy];
}

/** Relative size of a colour's picture at a distorted radius, less 1. */
export function lateralShift(coefficients: readonly number[], r: number): number {
  let sum = 0;
  for (let i = coefficients.length - 1; i >= 0; i--) sum = sum * r + coefficients[i];
  return sum;
}

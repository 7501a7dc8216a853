/**
 * How much of a steep pitch to hold back: buildings seen from close below, made wholly upright, are cut off by any crop, or
 * stretched at the top beyond what pixels bear. Photographers leave such verticals converging a little.
 */
import type { LensTerms } from '../optics/profile.ts';
import type { Recipe } from '../recipe/recipe.ts';
import { keptShare, markedPieces } from '../steps/crop/keep-marked.ts';
import type { FrameOptics } from '../steps/lens/frame-optics.ts';
import { type Plan, planFrame } from './plan.ts';
import { leastSampling } from './readings/measure.ts';

/** Of the marked length that a crop of the ratio could keep, and source pixels for one of the picture, at least. */
const LEAST_KEPT = 0.8;
const LEAST_SAMPLING = 0.5;
/** Pitches below this, in degrees, are never held back. */
const STEEP = 12;
const STEP = 5;

export interface HeldPitch {
  /** Percent of the pitch left undone. */
  holdBack: number;
  /** What the full correction would do. */
  why: 'cut' | 'stretched';
}

const keptBy = (plan: Plan, { lines }: Recipe): number =>
  keptShare(plan.crop, markedPieces(lines.marks, plan.projection));

/** For a recipe that undoes all of its pitch; null where that does no harm. */
export function heldPitch(optics: FrameOptics, recipe: Recipe, terms: LensTerms | null): HeldPitch | null {
  if (Math.abs(recipe.lines.pitch) < STEEP) return null;
  const at = (holdBackPitch: number): Plan =>
    planFrame(optics, { ...recipe, lines: { ...recipe.lines, holdBackPitch } }, terms);
  const most = keptBy(at(100), recipe);
  const cuts = (plan: Plan): boolean => keptBy(plan, recipe) < LEAST_KEPT * most;
  const stretches = (plan: Plan): boolean => leastSampling(plan) < LEAST_SAMPLING;
  const full = at(0);
  const why = cuts(full) ? 'cut' : stretches(full) ? 'stretched' : null;
  if (!why) return null;
  const harms = (holdBack: number): boolean => {
    const plan = at(holdBack);
    return cuts(plan) || stretches(plan);
  };
  let holdBack = STEP;
  while (holdBack < 100 && harms(holdBack)) holdBack += STEP;
  while (holdBack > 1 && !harms(holdBack - 1)) holdBack--;
  return { holdBack, why };
}

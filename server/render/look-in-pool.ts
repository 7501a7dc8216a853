/** What a picture shows by itself of its lens and its verticals, as its recipe has the lens. */
import type { FrameSize } from '../../core/math/frame-geometry.ts';
import type { FrameFacts } from '../../core/optics/frame-facts.ts';
import type { PlacedPlanes } from '../../core/picture/tile/planes.ts';
import type { Recipe } from '../../core/recipe/recipe.ts';
import { atWork } from '../../core/recipe/switched-off.ts';
import { planProjection } from '../../core/render/plan.ts';
import type { LookedAt } from '../../core/render/readings/found-evidence.ts';
import { type LensChoice, setupFrame } from '../../core/steps/lens/frame-optics.ts';
import type { LookForLinesOptions } from '../../core/steps/lines/look-for-lines.ts';
import type { Pool } from './pool.ts';

/** The glass that a picture is looked at through. */
export interface Glass extends Omit<LookForLinesOptions, 'toField'> {
  size: FrameSize;
}

export interface LookTask extends Glass {
  planes: PlacedPlanes;
}

export function glassOf(facts: FrameFacts, given: Recipe, choice: LensChoice): Glass {
  const recipe = atWork(given);
  const { optics, terms } = setupFrame(facts, recipe.lens, choice);
  const { model } = planProjection(optics, recipe, terms);
  const { focal, focalFrom, size } = optics;
  return { model, size, focal, focalKnown: focalFrom !== 'assumed' && focalFrom !== 'solved' };
}

/** Looks at planes of about a proxy's size, which stay the caller's. */
export function lookInPool(
  planes: PlacedPlanes,
  glass: Glass,
  pool: Pool,
  signal?: AbortSignal
): Promise<LookedAt> {
  const task: LookTask = { planes, ...glass };
  return pool.run(task, { name: 'look', signal }) as Promise<LookedAt>;
}

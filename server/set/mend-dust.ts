/** Mends on other frames of a job the dust that was found on one of them: it lies at one place of the sensor. */
import { mendedDust } from '../../core/steps/mend/dust/dust-patches.ts';
import { inScope } from '../../core/picture/kernels/scope.ts';
import type { Context } from '../context.ts';
import { frameById, framesOfJob, isReady } from '../frames/frame-row.ts';
import { readProxy } from '../frames/proxy.ts';
import { type SetChange, changeRecipes } from '../recipes/write-recipe.ts';
import { findDust, patchesOf, withPatches } from './frame-dust.ts';
import { UserError } from '../user-error.ts';

export interface DustMended extends SetChange {
  /** Frames of the camera that were looked at, and specks that show on them. */
  looked: number;
  specks: number;
}

export async function mendDust(context: Context, fromId: string): Promise<DustMended> {
  const from = await frameById(context, fromId);
  if (!isReady(from)) throw new UserError('This frame is not ready yet.');
  const specks = mendedDust(patchesOf(from.recipe));
  if (specks.length === 0)
    throw new UserError('No dust is mended on this frame: find it, or mark a spot as dust, first.');
  const { make, model, size } = from.facts;
  const others = (await framesOfJob(context, from.job_id))
    .filter(isReady)
    .filter(({ id, facts }) => id !== fromId && facts.make === make && facts.model === model);
  const done: DustMended = { frames: 0, changed: [], looked: others.length, specks: 0 };
  for (const frame of others) {
    const found = await inScope(async ({ ownAll }) =>
      findDust(context, frame, ownAll(await readProxy(context, frame)), { specks, size })
    );
    if (found.length === 0) continue;
    const { frames, changed } = await changeRecipes(context, [frame.id], (recipe) =>
      withPatches(recipe, found)
    );
    done.frames += frames;
    done.changed.push(...changed);
    done.specks += found.length;
  }
  return done;
}

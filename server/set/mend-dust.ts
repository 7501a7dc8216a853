/** Mends on other frames of a job the dust that was found on one of them: it lies at one place of the sensor. */
import type { Patch } from '../../core/steps/mend/patch.ts';
import { MOST_PATCHES } from '../../core/steps/mend/patch.ts';
import type { MendSettings } from '../../core/steps/mend/step.ts';
import { type DustTask, mendedDust } from '../../core/steps/mend/dust/dust-patches.ts';
import { inScope } from '../../core/picture/kernels/scope.ts';
import type { PartialRecipe } from '../../core/recipe/recipe.ts';
import { completeRecipe } from '../../core/recipe/recipe.ts';
import type { Context } from '../context.ts';
import { frameById, framesOfJob, isReady } from '../frames/frame-row.ts';
import { readProxy } from '../frames/proxy.ts';
import { type SetChange, changeRecipes } from '../recipes/write-recipe.ts';
import { UserError } from '../user-error.ts';

export interface DustMended extends SetChange {
  /** Frames of the camera that were looked at, and specks that show on them. */
  looked: number;
  specks: number;
}

const patchesOf = (recipe: PartialRecipe): readonly Patch[] =>
  (completeRecipe(recipe).mend as unknown as MendSettings).patches;

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
    const found = await inScope(async ({ ownAll }) => {
      const planes = ownAll(await readProxy(context, frame));
      const before = patchesOf(frame.recipe);
      const task: DustTask = { planes, size: frame.facts.size, before, known: { specks, size } };
      return (await context.pool.run(task, { name: 'dust' })) as Patch[];
    });
    if (found.length === 0) continue;
    const { frames, changed } = await changeRecipes(context, [frame.id], (recipe) => {
      const there = patchesOf(recipe);
      const added = found.filter(({ id }) => !there.some((each) => each.id === id));
      const patches = [...there, ...added].slice(0, MOST_PATCHES);
      return { ...recipe, mend: { ...recipe.mend, patches } } as unknown as PartialRecipe;
    });
    done.frames += frames;
    done.changed.push(...changed);
    done.specks += found.length;
  }
  return done;
}

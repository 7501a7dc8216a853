/** Dust of a frame: looked for on its proxy, and mended in its recipe. */
import type { Patch } from '../../core/steps/mend/patch.ts';
import { MOST_PATCHES } from '../../core/steps/mend/patch.ts';
import type { MendSettings } from '../../core/steps/mend/step.ts';
import type { DustTask } from '../../core/steps/mend/dust/dust-patches.ts';
import type { FrameFacts } from '../../core/optics/frame-facts.ts';
import type { PlacedPlanes } from '../../core/picture/tile/planes.ts';
import { type PartialRecipe, completeRecipe } from '../../core/recipe/recipe.ts';
import type { Context } from '../context.ts';
import type { FrameRow } from '../frames/frame-row.ts';

export const patchesOf = (recipe: PartialRecipe): readonly Patch[] =>
  (completeRecipe(recipe).mend as unknown as MendSettings).patches;

/** Patches for the dust that shows on a frame's planes; `known`: only where it was on another frame. */
export const findDust = (
  { pool }: Pick<Context, 'pool'>,
  { recipe, facts }: Pick<FrameRow, 'recipe'> & { facts: FrameFacts },
  planes: PlacedPlanes,
  known: DustTask['known']
): Promise<Patch[]> => {
  const task: DustTask = { planes, size: facts.size, before: patchesOf(recipe), known };
  return pool.run(task, { name: 'dust' }) as Promise<Patch[]>;
};

/** A recipe with patches that it does not have yet, as far as there is room for them. */
export function withPatches(recipe: PartialRecipe, found: readonly Patch[]): PartialRecipe {
  const there = patchesOf(recipe);
  const added = found.filter(({ id }) => !there.some((each) => each.id === id));
  if (added.length === 0) return recipe;
  const patches = [...there, ...added].slice(0, MOST_PATCHES);
  return { ...recipe, mend: { ...recipe.mend, patches } } as unknown as PartialRecipe;
}

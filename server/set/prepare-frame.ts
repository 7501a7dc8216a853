/** Prepares a frame in one go: true, cropped, toned and balanced by itself, with house settings, its dust mended. */
import equal from 'fast-deep-equal';
import type { Patch } from '../../core/steps/mend/patch.ts';
import { MOST_PATCHES } from '../../core/steps/mend/patch.ts';
import type { MendSettings } from '../../core/steps/mend/step.ts';
import type { DustTask } from '../../core/steps/mend/dust/dust-patches.ts';
import type { TrueUpMode } from '../../core/steps/lines/solve-rotation.ts';
import type { RatioName } from '../../core/picture/output/ratios.ts';
import { inScope } from '../../core/picture/kernels/scope.ts';
import { type HouseSteps, withHouseChanges } from '../../core/recipe/house-settings.ts';
import { patchedRecipe } from '../../core/recipe/patched-recipe.ts';
import { type PartialRecipe, completeRecipe } from '../../core/recipe/recipe.ts';
import type { Context } from '../context.ts';
import { UserError } from '../user-error.ts';
import { frameById, isReady } from '../frames/frame-row.ts';
import { readProxy } from '../frames/proxy.ts';
import { choiceFor } from '../lenses/lens-choice.ts';
import { changeRecipes } from '../recipes/write-recipe.ts';
import { type ByItself, setByItself } from '../render/by-itself.ts';
import { trueUpFrame } from './true-up-frame.ts';

export interface Preparing {
  /** What becomes true; null: nothing. */
  trueUp: TrueUpMode | null;
  /** Ratio of a crop that nobody has changed yet; null: as it is. */
  ratio: RatioName | null;
  /** What is set by itself. */
  auto: ByItself['auto'];
  /** What of them changes anything is laid over it; null: none. */
  house: HouseSteps | null;
  dust: boolean;
}

export interface Prepared {
  /** What was done, in words. */
  said: string[];
  /** Why the frame wants a look; null: it does not. */
  look: string | null;
  /** The version that the frame has since, if it was changed. */
  version?: number;
}

const patchesOf = (recipe: PartialRecipe): readonly Patch[] =>
  (completeRecipe(recipe).mend as unknown as MendSettings).patches;

export async function prepareFrame(context: Context, id: string, wanted: Preparing): Promise<Prepared> {
  const said: string[] = [];
  let look: string | null = null;
  const before = await frameById(context, id);
  if (!isReady(before)) throw new UserError('This frame is not ready yet.');
  const uncropped = equal(completeRecipe(before.recipe).crop, completeRecipe().crop);
  let version: number | undefined;
  if (wanted.trueUp) {
    const trued = await trueUpFrame(context, id, wanted.trueUp);
    if (trued.ok) said.push(trued.said);
    else look = trued.said;
    version = trued.version;
  }
  const frame = await frameById(context, id);
  if (!isReady(frame)) throw new UserError('This frame no longer exists.');
  const { facts, recipe } = frame;
  const choice = await choiceFor(context, facts, recipe.lens?.profile);
  const found = await inScope(async ({ ownAll }) => {
    const planes = ownAll(await readProxy(context, frame));
    const set = await setByItself(
      recipe,
      { straighten: false, trueUp: null, auto: wanted.auto },
      { planes, facts, choice },
      context.pool
    );
    const task: DustTask = { planes, size: facts.size, before: patchesOf(recipe), known: null };
    const dust = wanted.dust ? ((await context.pool.run(task, { name: 'dust' })) as Patch[]) : [];
    return { ...set, dust };
  });
  said.push(...found.said);
  if (found.dust.length > 0)
    said.push(`Dust: ${found.dust.length} ${found.dust.length === 1 ? 'speck' : 'specks'} mended.`);
  const { changed } = await changeRecipes(context, [id], (now) => {
    const { tone, colour } = found.recipe;
    let made: PartialRecipe = now;
    if (wanted.ratio && uncropped) made = patchedRecipe(made, { crop: { ratio: wanted.ratio } });
    if (wanted.auto.includes('tone')) made = patchedRecipe(made, { tone });
    if (wanted.auto.includes('colour')) made = patchedRecipe(made, { colour });
    if (wanted.house) made = withHouseChanges(made, wanted.house);
    const there = patchesOf(made);
    const added = found.dust.filter((patch) => !there.some((each) => each.id === patch.id));
    if (added.length > 0)
      made = {
        ...made,
        mend: { ...made.mend, patches: [...there, ...added].slice(0, MOST_PATCHES) }
      } as unknown as PartialRecipe;
    return made;
  });
  return { said, look, version: changed[0]?.version ?? version };
}

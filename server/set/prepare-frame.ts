/** Prepares a frame in one go: true, cropped, toned and balanced by itself, with house settings, its dust mended. */
import equal from 'fast-deep-equal';
import type { FrameFacts } from '../../core/optics/frame-facts.ts';
import type { TrueUpMode } from '../../core/steps/lines/solve-rotation.ts';
import type { RatioName } from '../../core/picture/output/ratios.ts';
import { inScope } from '../../core/picture/kernels/scope.ts';
import { type HouseSteps, withHouseChanges } from '../../core/recipe/house-settings.ts';
import { patchedRecipe } from '../../core/recipe/patched-recipe.ts';
import { type PartialRecipe, completeRecipe } from '../../core/recipe/recipe.ts';
import type { Context } from '../context.ts';
import { UserError } from '../user-error.ts';
import { type FrameRow, frameById, isReady } from '../frames/frame-row.ts';
import { keptEdges } from '../frames/frame-edges.ts';
import { frameLines } from '../frames/frame-lines.ts';
import { readProxy } from '../frames/proxy.ts';
import { type LensChoice, setupFrame } from '../../core/steps/lens/frame-optics.ts';
import { choiceFor } from '../lenses/lens-choice.ts';
import { storedRecipe } from '../frames/read-recipe.ts';
import { saveRecipe } from '../recipes/write-recipe.ts';
import { glassOf } from '../render/look-in-pool.ts';
import { type ByItself, setByItself } from '../render/by-itself.ts';
import { findDust, withPatches } from './frame-dust.ts';
import { CHANGED_MEANWHILE, type TruedUp, truedUp } from './true-up-frame.ts';

export interface Preparing {
  /** Whether a lens that no profile is known of is straightened, and its colours evened, by the edges that the frame shows. */
  straighten: boolean;
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

/** What a recipe became, and what is to be said of its lines (undefined: they were not looked at). */
interface Made {
  recipe: PartialRecipe;
  said: string[];
  lines?: TruedUp;
  /** Why its lens wants a look; null: it does not. */
  lens: string | null;
}

type ReadyFrame = FrameRow & { facts: FrameFacts };

/** Whether nothing is known of how a frame's lens bends, and nobody has said anything of it. */
function isLensOpen({ facts, recipe }: ReadyFrame, choice: LensChoice): boolean {
  const { lens } = completeRecipe(recipe);
  const untouched = lens.enabled && lens.profile === 'auto' && lens.solved === null && lens.bow === 0;
  return untouched && setupFrame(facts, lens, choice).profile === null && facts.rendering === 'scene';
}

/** A recipe with all that the picture itself tells, as far as it is asked. */
async function byThePicture(
  context: Context,
  frame: ReadyFrame,
  { straighten, trueUp, ratio, auto, dust }: Preparing
): Promise<Made> {
  const { facts } = frame;
  const uncropped = equal(completeRecipe(frame.recipe).crop, completeRecipe().crop);
  const cropped = (recipe: PartialRecipe): PartialRecipe =>
    ratio && uncropped ? patchedRecipe(recipe, { crop: { ratio } }) : recipe;
  const choice = await choiceFor(context, facts, frame.recipe.lens?.profile);
  const bends = straighten && isLensOpen(frame, choice);
  if (!bends && !trueUp && auto.length === 0 && !dust)
    return { recipe: cropped(frame.recipe), said: [], lens: null };
  return inScope(async ({ ownAll }) => {
    const { pool } = context;
    const planes = ownAll(await readProxy(context, frame));
    const made: Made = { recipe: frame.recipe, said: [], lens: null };
    const ask = { planes, facts, choice, colourEdges: () => keptEdges(context, frame.sha256) };
    if (bends) {
      const only = { straighten: true, trueUp: null, auto: [] };
      const { recipe, said } = await setByItself(made.recipe, only, ask, pool);
      if (!recipe.lens?.solved) made.lens = `No profile of its lens is known. ${said.join(' ')}`;
      made.recipe = recipe;
      made.said.push(...said);
    }
    if (trueUp) {
      const recipe = completeRecipe(made.recipe);
      const trued = truedUp(
        { facts, recipe: made.recipe },
        trueUp,
        choice,
        await frameLines(context, frame, glassOf(facts, recipe, choice), () => Promise.resolve(planes))
      );
      made.recipe = trued.recipe ?? made.recipe;
      made.lines = trued.said;
      if (trued.recipe) made.said.push(trued.said.said);
    }
    const wanted = { straighten: false, trueUp: null, auto };
    const set = await setByItself(cropped(made.recipe), wanted, ask, pool);
    made.said.push(...set.said);
    const found = dust ? await findDust(context, frame, planes, null) : [];
    if (found.length > 0)
      made.said.push(`Dust: ${found.length} ${found.length === 1 ? 'speck' : 'specks'} mended.`);
    made.recipe = withPatches(set.recipe, found);
    return made;
  });
}

/** All of it is one step of the frame's history. */
export async function prepareFrame(context: Context, id: string, wanted: Preparing): Promise<Prepared> {
  const frame = await frameById(context, id);
  if (!isReady(frame)) throw new UserError('This frame is not ready yet.');
  const { said, lines, lens, ...made } = await byThePicture(context, frame, wanted);
  const recipe = wanted.house ? withHouseChanges(made.recipe, wanted.house) : made.recipe;
  const saved = await saveRecipe(context, id, frame.version, recipe, lines && { said: lines });
  if (!saved?.saved) return { said: [], look: CHANGED_MEANWHILE };
  const changed = !equal(storedRecipe(frame.recipe), storedRecipe(recipe));
  return {
    said,
    look: lines && !lines.ok ? lines.said : lens,
    version: changed ? saved.version : undefined
  };
}

/** Trues a frame up by itself, for many frames at once: from its proxy, over its recipe as it stands. */
import type { FrameFacts } from '../../core/optics/frame-facts.ts';
import { type PartialRecipe, completeRecipe } from '../../core/recipe/recipe.ts';
import { patchedRecipe } from '../../core/recipe/patched-recipe.ts';
import { trueUpRecipe } from '../../core/render/true-up.ts';
import { type FrameSetup, type LensChoice, setupFrame } from '../../core/steps/lens/frame-optics.ts';
import type { LensSettings } from '../../core/steps/lens/step.ts';
import type { TrueUpMode } from '../../core/steps/lines/solve-rotation.ts';
import type { Confidence, TrueUpItself } from '../../core/steps/lines/true-up-itself.ts';
import { inScope } from '../../core/picture/kernels/scope.ts';
import type { Context } from '../context.ts';
import { UserError } from '../user-error.ts';
import { choiceFor } from '../lenses/lens-choice.ts';
import { saveRecipe } from '../recipes/write-recipe.ts';
import { type FrameRow, frameById, isReady } from '../frames/frame-row.ts';
import { frameLines } from '../frames/frame-lines.ts';
import { readProxy } from '../frames/proxy.ts';
import { glassOf } from '../render/look-in-pool.ts';

export interface TruedUp {
  ok: boolean;
  /** How sure the result is, or why the frame was left as it is. */
  said: string;
  confidence?: Confidence;
  /** The version that the frame has since, if it was changed. */
  version?: number;
}

/** Trues a frame up as far as its lines are sure, and keeps what was said of it. */
export async function trueUpFrame(
  context: Context,
  id: string,
  mode: TrueUpMode = 'verticals'
): Promise<TruedUp> {
  const frame = await frameById(context, id);
  if (!isReady(frame)) throw new UserError('This frame is not ready yet.');
  const said = await trueUp(context, frame, mode);
  if (!said.ok) {
    await context.db.query('update frames set lines_said = $2 where id = $1', [id, said]);
    await context.notices.tell({ job: frame.job_id, frame: id });
  }
  return said;
}

/** A frame's recipe trued up as far as its lines are sure, and what is to be said of it; null: it stays as it is. */
export function truedUp(
  { recipe, facts }: Pick<FrameRow, 'recipe'> & { facts: FrameFacts },
  mode: TrueUpMode,
  choice: LensChoice,
  found: TrueUpItself
): { recipe: PartialRecipe | null; said: TruedUp } {
  const setup = (lens: LensSettings): FrameSetup => setupFrame(facts, lens, choice);
  const made = trueUpRecipe(found, { recipe: completeRecipe(recipe), mode, setup });
  if (!made.ok) return { recipe: null, said: made };
  const { said, confidence, patch } = made;
  return { recipe: patchedRecipe(recipe, patch), said: { ok: true, said, confidence } };
}

/** What is said of a frame that was changed by someone else while it was worked on. */
export const CHANGED_MEANWHILE = 'The frame was changed elsewhere meanwhile, and stays as it is there.';

async function trueUp(
  context: Context,
  frame: FrameRow & { facts: FrameFacts },
  mode: TrueUpMode
): Promise<TruedUp> {
  const choice = await choiceFor(context, frame.facts, frame.recipe.lens?.profile);
  const glass = glassOf(frame.facts, completeRecipe(frame.recipe), choice);
  const found = await inScope(({ ownAll }) =>
    frameLines(context, frame, glass, async () => ownAll(await readProxy(context, frame)))
  );
  const { recipe, said } = truedUp(frame, mode, choice, found);
  if (!recipe) return said;
  const saved = await saveRecipe(context, frame.id, frame.version, recipe, { said });
  return saved?.saved ? { ...said, version: saved.version } : { ok: false, said: CHANGED_MEANWHILE };
}

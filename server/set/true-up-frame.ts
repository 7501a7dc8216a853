/** Trues a frame up by itself, for many frames at once: from its proxy, over its recipe as it stands. */
import type { FrameFacts } from '../../core/optics/frame-facts.ts';
import { completeRecipe } from '../../core/recipe/recipe.ts';
import { takeFound } from '../../core/steps/lines/found-marks.ts';
import type { TrueUpMode } from '../../core/steps/lines/solve-rotation.ts';
import type { Confidence } from '../../core/steps/lines/true-up-itself.ts';
import { inScope } from '../../core/picture/kernels/scope.ts';
import type { Context } from '../context.ts';
import { UserError } from '../user-error.ts';
import { choiceFor } from '../lenses/lens-choice.ts';
import { saveRecipe } from '../recipes/write-recipe.ts';
import { type FrameRow, frameById, isReady } from '../frames/frame-row.ts';
import { readProxy } from '../frames/proxy.ts';
import { type Looked, lookInPool } from '../render/look-in-pool.ts';

export interface TruedUp {
  ok: boolean;
  /** How sure the result is, or why the frame was left as it is. */
  said: string;
  confidence?: Confidence;
}

/** Looks at a frame's proxy with the lens as its recipe has it. */
export function lookAtFrame(context: Context, frame: FrameRow & { facts: FrameFacts }): Promise<Looked> {
  return inScope(async ({ ownAll }) => {
    const recipe = completeRecipe(frame.recipe);
    const choice = await choiceFor(context, frame.facts, recipe.lens.profile);
    const planes = ownAll(await readProxy(context, frame));
    return lookInPool({ planes, facts: frame.facts, recipe, choice }, context.pool);
  });
}

/** Trues a frame up as far as its lines are sure, and keeps what was said of it. `looked`: at the frame as it is now. */
export async function trueUpFrame(
  context: Context,
  id: string,
  mode: TrueUpMode = 'verticals',
  looked?: Looked
): Promise<TruedUp> {
  const frame = await frameById(context, id);
  if (!isReady(frame)) throw new UserError('This frame is not ready yet.');
  const said = await trueUp(context, frame, mode, looked ?? (await lookAtFrame(context, frame)));
  if (!said.ok) {
    await context.db.query('update frames set lines_said = $2 where id = $1', [id, said]);
    await context.notices.tell({ job: frame.job_id, frame: id });
  }
  return said;
}

async function trueUp(
  context: Context,
  frame: FrameRow,
  mode: TrueUpMode,
  { lines: found, model, optics }: Looked
): Promise<TruedUp> {
  const { marks } = completeRecipe(frame.recipe).lines;
  const taken = takeFound(found, { marks, model, focal: optics.focal, mode });
  if (!taken.ok) return { ok: false, said: taken.said };
  const said = { ok: true, said: taken.said, confidence: taken.confidence };
  const lines = { ...frame.recipe.lines, marks: taken.marks, ...taken.angles, enabled: true };
  const { solvedFocal } = taken;
  const lens = solvedFocal === null ? {} : { lens: { ...frame.recipe.lens, solvedFocal } };
  const made = { ...frame.recipe, ...lens, lines };
  const saved = await saveRecipe(context, frame.id, frame.version, made, { said });
  if (!saved?.saved)
    return { ok: false, said: 'The frame was changed elsewhere meanwhile, and stays as it is there.' };
  return said;
}

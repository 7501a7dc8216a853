/** Trues a frame up by itself, for many frames at once: from its proxy, over its recipe as it stands. */
import type { FrameFacts } from '../../core/camera/frame-facts.ts';
import { completeRecipe } from '../../core/recipe/recipe.ts';
import { takeFound } from '../../core/lines/found-marks.ts';
import type { TrueUpMode } from '../../core/lines/solve-rotation.ts';
import type { TrueUpItself } from '../../core/lines/true-up-itself.ts';
import { setupFrame } from '../../core/camera/frame-optics.ts';
import { planProjection } from '../../core/render/plan.ts';
import type { App } from '../app.ts';
import { UserError } from '../decode/user-error.ts';
import { choiceFor } from '../lenses/lens-choice.ts';
import { type FrameRow, frameById, saveRecipe } from './frame-row.ts';
import { giveBackPlanes } from '../render/lent-memory.ts';
import { readProxy } from './thumbnail.ts';

export interface TruedUp {
  ok: boolean;
  /** How sure the result is, or why the frame was left as it is. */
  said: string;
}

/** Trues a frame up as far as its lines are sure, and keeps what was said of it. */
export async function trueUpFrame(app: App, id: string, mode: TrueUpMode = 'verticals'): Promise<TruedUp> {
  const frame = await frameById(app, id);
  if (!frame?.facts || !frame.proxy) throw new UserError('This frame is not ready yet.');
  const said = await trueUp(app, frame as FrameRow & { facts: FrameFacts }, mode);
  await app.db.query('update frames set lines_said = $2 where id = $1', [id, said]);
  return said;
}

async function trueUp(app: App, frame: FrameRow & { facts: FrameFacts }, mode: TrueUpMode): Promise<TruedUp> {
  const recipe = completeRecipe(frame.recipe);
  const choice = await choiceFor(app, frame.facts, recipe.lens.profile);
  const { optics, terms } = setupFrame(frame.facts, recipe.lens, choice);
  const { model } = planProjection(optics, recipe, terms);
  const planes = await readProxy(app, frame);
  const focalKnown = optics.focalFrom !== 'assumed' && optics.focalFrom !== 'solved';
  const task = { planes, model, size: optics.size, focal: optics.focal, focalKnown };
  const found = (await app.pool.run(task, { name: 'lines' })) as TrueUpItself;
  giveBackPlanes(planes);
  const taken = takeFound(found, { marks: recipe.lines.marks, model, focal: optics.focal, mode });
  if (!taken.ok) return { ok: false, said: taken.said };
  const lines = { ...frame.recipe.lines, marks: taken.marks, ...taken.angles, enabled: true };
  const { solvedFocal } = taken;
  const lens = solvedFocal === null ? {} : { lens: { ...frame.recipe.lens, solvedFocal } };
  const saved = await saveRecipe(app, frame.id, frame.version, { ...frame.recipe, ...lens, lines });
  if (!saved?.saved)
    return { ok: false, said: 'The frame was changed elsewhere meanwhile, and stays as it is there.' };
  return { ok: true, said: taken.said };
}

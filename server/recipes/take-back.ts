/** Takes back what was done to many frames at once: each goes one step back, as undo on the bench would take it. */
import type { Context } from '../context.ts';
import { frameById } from '../frames/frame-row.ts';
import { stateBefore } from './history.ts';
import { type Changed, saveRecipe } from './write-recipe.ts';

export interface TakenBack {
  /** Frames that are as they were before. */
  back: number;
  /** Names of those that were changed since, which stay as they are. */
  since: string[];
}

/** Frames of other jobs, and those that are gone, are passed over. */
export async function takeBack(
  context: Context,
  jobId: string,
  changed: readonly Changed[]
): Promise<TakenBack> {
  const done: TakenBack = { back: 0, since: [] };
  for (const { id, version } of changed) {
    const frame = await frameById(context, id);
    if (frame?.job_id !== jobId) continue;
    const before = frame.version === version ? await stateBefore(context, id) : null;
    // The step taken back, which is the last, stays ahead: redo on the bench brings it again.
    const saved =
      before &&
      (await saveRecipe(context, id, version, before.recipe, {
        history: { from: before.at + 2, states: [], at: before.at }
      }));
    if (saved?.saved) done.back++;
    else done.since.push(frame.name);
  }
  return done;
}

/** Takes back what was done to many frames at once: each goes one step back, as undo on the bench would take it. */
import type { Context } from '../context.ts';
import { frameById } from '../frames/frame-row.ts';
import { historyOf } from './history.ts';
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
    const { first, at, states } = await historyOf(context, id);
    const before = at === null ? undefined : states[at - 1 - first];
    // The step taken back stays ahead, so that redo on the bench brings it again.
    const saved =
      before && frame.version === version
        ? await saveRecipe(context, id, version, before.recipe, {
            history: { from: first + states.length, states: [], at: at! - 1 }
          })
        : null;
    if (saved?.saved) done.back++;
    else done.since.push(frame.name);
  }
  return done;
}

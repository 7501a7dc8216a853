/** Prepares frames one after another, and says what came of it and which want a look. */
import type { Changed } from '$server/recipes/write-recipe.ts';
import type { Prepared } from '$server/set/prepare-frame.ts';
import { call } from '$lib/call.ts';

export interface PrepareWanted {
  trueUp: string | null;
  ratio: string | null;
  auto: readonly string[];
  house: string | null;
  dust: boolean;
}

export interface PreparedFrames {
  done: number;
  /** Those that want a look, with why. */
  looks: { id: string; name: string; why: string }[];
  changed: Changed[];
}

/** `progress` hears how many are done, and may stop it before the next. A frame that fails is left as it is. */
export async function prepareFrames(
  frames: readonly { id: string; name: string }[],
  wanted: PrepareWanted,
  progress: (done: number, name: string) => boolean
): Promise<PreparedFrames> {
  const made: PreparedFrames = { done: 0, looks: [], changed: [] };
  for (const [i, { id, name }] of frames.entries()) {
    if (!progress(i, name)) break;
    const found = await call<Prepared>(`/api/frames/${id}/prepare`, { method: 'POST', body: wanted }).catch(
      (reason: Error): Prepared => ({ said: [], look: reason.message })
    );
    made.done++;
    if (found.look) made.looks.push({ id, name, why: found.look });
    if (found.version !== undefined) made.changed.push({ id, version: found.version });
  }
  return made;
}

/** Trues frames up by themselves, one after another, and says what came of it. */
import type { TrueUpMode } from '$core/steps/lines/solve-rotation.ts';
import type { Changed } from '$server/recipes/write-recipe.ts';
import { call } from '$lib/call.ts';

/** `progress` hears what is being done. A frame that fails is left as it is; so are those that show no sure lines. */
export async function trueUpFrames(
  frames: readonly { id: string; name: string }[],
  mode: TrueUpMode,
  progress: (said: string) => void
): Promise<{ said: string; changed: Changed[] }> {
  const changed: Changed[] = [];
  let left = 0;
  let failed = '';
  for (const [i, { id, name }] of frames.entries()) {
    progress(`Truing up ${name}, ${i + 1} of ${frames.length}…`);
    const path = `/api/frames/${id}/true-up?mode=${mode}`;
    const done = await call<{ ok: boolean; version?: number }>(path, { method: 'POST' }).catch(
      (reason: Error) => {
        failed = ` ${reason.message}`;
        return { ok: false, version: undefined };
      }
    );
    if (!done.ok) left++;
    if (done.version !== undefined) changed.push({ id, version: done.version });
  }
  const said =
    left === 0
      ? `${frames.length} trued up.`
      : `${frames.length - left} trued up; ${left} left as they are, see why on each.${failed}`;
  return { said, changed };
}

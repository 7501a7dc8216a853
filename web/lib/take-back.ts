/** The way back from what was done to many frames of a job, for its toast. */
import type { FrameChange } from '$server/frames/frame-row.ts';
import type { TakenBack } from '$server/recipes/take-back.ts';
import type { Changed } from '$server/recipes/write-recipe.ts';
import { call } from '$lib/call.ts';

const frames = (n: number): string => `${n} ${n === 1 ? 'frame is' : 'frames are'}`;

/** What came of taking changes back, in words. */
export const takenBackText = ({ back, since }: TakenBack): string =>
  since.length === 0
    ? `${frames(back)} as before.`
    : `${frames(back)} as before; changed since, and left so: ${since.slice(0, 3).join(', ')}` +
      (since.length > 3 ? ` and ${since.length - 3} more.` : '.');

/** Takes recipes back; undefined where none was changed. */
export const undoChanges = (job: string, changed: readonly Changed[]): (() => Promise<string>) | undefined =>
  changed.length === 0
    ? undefined
    : async () =>
        takenBackText(await call(`/api/jobs/${job}/take-back`, { method: 'POST', body: { changed } }));

/** Gives frames back what they were in the job, or showed. */
export function undoSaid(job: string, before: readonly ({ id: string } & FrameChange)[]) {
  return async (): Promise<string> => {
    const groups = new Map<string, string[]>();
    for (const { id, ...was } of before) {
      const key = JSON.stringify(was);
      groups.set(key, [...(groups.get(key) ?? []), id]);
    }
    for (const [was, ids] of groups)
      await call(`/api/jobs/${job}/frames`, {
        method: 'PATCH',
        body: { ids, ...(JSON.parse(was) as FrameChange) }
      });
    return takenBackText({ back: before.length, since: [] });
  };
}

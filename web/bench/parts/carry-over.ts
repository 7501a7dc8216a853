/** Carries steps of the frame in hand over to others of its job, and tells of it with a way back. */
import { call } from '$lib/call.ts';
import { undoChanges } from '$lib/take-back.ts';
import { toasts } from '$lib/toasts/toasts.svelte.ts';
import type { CarriedPart } from '$core/recipe/carry-over.ts';
import type { Job } from '$server/jobs/jobs.ts';
import type { SetChange } from '$server/recipes/write-recipe.ts';
import type { Bench } from '../state/bench-state.svelte.ts';

/** `done`: what stays, in words. */
export async function carryOver(
  bench: Bench,
  job: Job,
  { steps, to, done }: { steps: readonly CarriedPart[]; to: readonly string[]; done: string }
): Promise<void> {
  await bench.saver.flush();
  const { frames, changed } = await call<SetChange>(`/api/frames/${bench.frame.id}/carry`, {
    method: 'POST',
    body: { steps, to }
  });
  toasts.tell(`Carried over to ${frames} ${frames === 1 ? 'frame' : 'frames'}. ${done}`, {
    undo: undoChanges(job.id, changed)
  });
}

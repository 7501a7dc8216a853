/** What the next frame takes over from the one that is left: its step, and where it was looked at how closely. */
import type { StepName } from '$core/recipe/steps.ts';
import type { KeptPlace } from './sheet/sheet-state.svelte.ts';

interface Left {
  job: string;
  step: StepName;
  place: KeptPlace;
}

let left: Left | null = null;

/** Set in the browser alone, when one frame is left for another. */
export function keepPlace(next: Left): void {
  left = next;
}

/** What was left in this job, once. */
export function takePlace(job: string): Left | null {
  const taken = left?.job === job ? left : null;
  left = null;
  return taken;
}

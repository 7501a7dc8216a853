/** Work on frames one after another, with what came of it and which of them want a look. */
import type { Changed } from '$server/recipes/write-recipe.ts';

/** What is said of a frame. */
export interface FrameDone {
  /** Why it wants a look; null: it does not. */
  look: string | null;
  /** Its version, where it changed. */
  version?: number;
}

export interface FramesDone {
  done: number;
  /** Those that want a look, with why. */
  looks: { id: string; name: string; why: string }[];
  changed: Changed[];
}

/** Frames in hand at once: what one asks of the server keeps one core busy. */
const AT_ONCE = 2;

/** `progress` hears how many are done, and may stop it before the next. A frame that fails is left as it is. */
export async function framesInTurn(
  frames: readonly { id: string; name: string }[],
  work: (id: string) => Promise<FrameDone>,
  progress: (done: number, name: string) => boolean
): Promise<FramesDone> {
  const found = new Map<string, FrameDone>();
  let next = 0;
  let stopped = false;
  const take = async (): Promise<void> => {
    while (!stopped && next < frames.length) {
      const { id, name } = frames[next];
      stopped = !progress(found.size, name);
      if (stopped) break;
      next++;
      found.set(id, await work(id).catch((reason: Error): FrameDone => ({ look: reason.message })));
    }
  };
  await Promise.all(Array.from({ length: AT_ONCE }, take));
  const made: FramesDone = { done: found.size, looks: [], changed: [] };
  for (const { id, name } of frames) {
    const { look = null, version } = found.get(id) ?? {};
    if (look) made.looks.push({ id, name, why: look });
    if (version !== undefined) made.changed.push({ id, version });
  }
  return made;
}

/** What came of it, in words: `3 frames matched; 1 wants a look.` */
export function doneText({ done, looks }: FramesDone, verb: string): string {
  const wants = looks.length === 1 ? '1 wants a look' : `${looks.length} want a look`;
  return `${done} ${done === 1 ? 'frame' : 'frames'} ${verb}${looks.length > 0 ? `; ${wants}` : ''}.`;
}

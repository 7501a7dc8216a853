/** Steps back and forth through states: many small changes of one drag are one step. */
export interface History<T> {
  past: readonly T[];
  present: T;
  future: readonly T[];
  /** The state before a change in progress. */
  before: T | null;
}

const MOST_STEPS_BACK = 200;

export const beginHistory = <T>(present: T): History<T> => ({ past: [], present, future: [], before: null });

/** A change that goes on. */
export const moving = <T>(history: History<T>, present: T): History<T> => ({
  ...history,
  present,
  before: history.before ?? history.present
});

/** Ends the change in progress; one that changed nothing is no step. */
export function settled<T>(history: History<T>): History<T> {
  const { past, present, before } = history;
  if (before === null || JSON.stringify(before) === JSON.stringify(present))
    return { ...history, before: null };
  return { past: [...past.slice(-MOST_STEPS_BACK + 1), before], present, future: [], before: null };
}

/** One step back; a change in progress is the step that is taken back. */
export function stepBack<T>(history: History<T>): History<T> {
  const { past, present, future } = settled(history);
  if (past.length === 0) return { past, present, future, before: null };
  return {
    past: past.slice(0, -1),
    present: past[past.length - 1],
    future: [present, ...future],
    before: null
  };
}

export function stepForth<T>(history: History<T>): History<T> {
  const { past, present, future } = settled(history);
  if (future.length === 0) return { past, present, future, before: null };
  return { past: [...past, present], present: future[0], future: future.slice(1), before: null };
}

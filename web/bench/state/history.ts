/** Steps back and forth through states: many small changes of one drag are one step. */
export interface History<T> {
  past: readonly T[];
  present: T;
  future: readonly T[];
  /** The state before a change in progress. */
  before: T | null;
  /** Position of the first state of the past: those before it were forgotten. */
  first: number;
}

const MOST_STEPS_BACK = 200;

export const beginHistory = <T>(present: T): History<T> => ({
  past: [],
  present,
  future: [],
  before: null,
  first: 0
});

/** A change that goes on. */
export const moving = <T>(history: History<T>, present: T): History<T> => ({
  ...history,
  present,
  before: history.before ?? history.present
});

/** Ends the change in progress; one that changed nothing is no step. */
export function settled<T>(history: History<T>): History<T> {
  const { past, present, before, first } = history;
  if (before === null || JSON.stringify(before) === JSON.stringify(present))
    return { ...history, before: null };
  const kept = past.slice(-MOST_STEPS_BACK + 1);
  return {
    past: [...kept, before],
    present,
    future: [],
    before: null,
    first: first + past.length - kept.length
  };
}

/** Goes to one of the states, by its place among all of them; a change in progress is a step by then. */
export function stepTo<T>(history: History<T>, to: number): History<T> {
  const { past, present, future, first } = settled(history);
  const states = [...past, present, ...future];
  const at = Math.min(states.length - 1, Math.max(0, to));
  return {
    past: states.slice(0, at),
    present: states[at],
    future: states.slice(at + 1),
    before: null,
    first
  };
}

/** One step back; a change in progress is the step that is taken back. */
export const stepBack = <T>(history: History<T>): History<T> => {
  const now = settled(history);
  return stepTo(now, now.past.length - 1);
};

export const stepForth = <T>(history: History<T>): History<T> => {
  const now = settled(history);
  return stepTo(now, now.past.length + 1);
};

/** All states, by the position of the first and of the one in hand. */
export interface States<T> {
  first: number;
  states: readonly T[];
  at: number;
}

export const statesOf = <T>({ past, present, future, first }: History<T>): States<T> => ({
  first,
  states: [...past, present, ...future],
  at: first + past.length
});

/** What there was before this history began goes before it; what was undone then, after it, if nothing was changed since. */
export function withKept<T>(history: History<T>, { first, states, at }: States<T>): History<T> {
  const past = states.slice(0, at - first);
  const untouched = history.past.length === 0 && history.future.length === 0 && history.before === null;
  return {
    ...history,
    past: [...past, ...history.past],
    future: untouched ? states.slice(at - first + 1) : history.future,
    first
  };
}

/** What is to be replaced of some states, so that they are those of another moment. */
export function statesSince<T>(
  kept: States<T> | null,
  now: States<T>
): { from: number; states: readonly T[]; at: number } {
  let from = now.first;
  if (kept) while (from - now.first < now.states.length && isKept(kept, now, from)) from++;
  return { from, states: now.states.slice(from - now.first), at: now.at };
}

const isKept = <T>(kept: States<T>, now: States<T>, position: number): boolean =>
  position >= kept.first && kept.states[position - kept.first] === now.states[position - now.first];

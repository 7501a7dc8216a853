/** What a step shows on the bench, its pages and tools in hand: each step makes and keeps its own, for each frame that is open. */
import type { Bench } from '../state/bench-state.svelte.ts';

export function stepView<View extends object>(create: () => View): (bench: Bench) => View {
  const views = new WeakMap<Bench, View>();
  return (bench) => {
    const known = views.get(bench);
    if (known) return known;
    const made = create();
    views.set(bench, made);
    return made;
  };
}

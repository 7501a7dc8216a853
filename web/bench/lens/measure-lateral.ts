/** Measures the sizes of red and blue from the picture's own edges. */
import type { Bench } from '../state/bench-state.svelte.ts';
import { lensView } from './lens-view.svelte.ts';

export function measureLateral(bench: Bench): void {
  const { measured } = bench;
  const view = lensView(bench);
  if (!measured?.lateral) {
    view.said = measured?.reason ?? 'The edges of this picture are still being read. Try again in a moment.';
    return;
  }
  const before = bench.readings.fringe;
  const { red, blue } = measured.lateral;
  const found = { red: [...red], blue: [...blue] };
  bench.change('lens', { measured: found, lateral: 100, lateralRed: 0, lateralBlue: 0, enabled: true });
  const after = bench.readings.fringe;
  const px = (reading: typeof after): string =>
    reading ? `${reading.worst.toFixed(2)} px` : 'not to be told';
  view.said = `Fringe ${px(before)} → ${px(after)}, from ${measured.edges.length} edges.`;
}

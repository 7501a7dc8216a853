import { stepParts } from '../parts/step-parts.ts';
import ToneDeck from './ToneDeck.svelte';
import { createToneTool } from './tone-tool.ts';

export const toneParts = stepParts({
  deck: ToneDeck,
  overlay: null,
  createTool: createToneTool,
  commands: (bench) =>
    ([1, -1] as const).map((direction) => ({
      id: `exposure ${direction}`,
      label: direction > 0 ? 'Expose more, by a tenth of a stop' : 'Expose less, by a tenth of a stop',
      group: 'Tone',
      step: 'tone' as const,
      tenfold: true,
      keys: [direction > 0 ? 'ArrowUp' : 'ArrowDown'],
      run(by: number) {
        const exposure = Math.min(5, Math.max(-5, bench.recipe.tone.exposure + (direction * by) / 10));
        bench.change('tone', { exposure: Number(exposure.toFixed(2)), enabled: true });
      }
    }))
});

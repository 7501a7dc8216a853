import { noTool } from '../sheet/no-tool.ts';
import { stepParts } from '../parts/step-parts.ts';
import FinishDeck from './FinishDeck.svelte';
import FinishOverlay from './FinishOverlay.svelte';
import { edgeOf, middleOnSheet, moveMiddle } from './edge-middle.ts';
import { finishView } from './finish-view.svelte.ts';

export const finishParts = stepParts({
  deck: FinishDeck,
  overlay: FinishOverlay,
  handles(bench, sheet) {
    if (finishView(bench).page !== 'edge' || !edgeOf(bench)) return [];
    const at = middleOnSheet(bench, sheet);
    return [
      {
        id: 'edge-middle',
        label: 'Middle of the edge',
        at,
        nudge: (dx, dy) => moveMiddle(bench, sheet, [at[0] + dx, at[1] + dy], false)
      }
    ];
  },
  createTool: noTool,
  commands: (bench) => [
    {
      id: 'sharpened-shown',
      label: 'Show where sharpening acts, or the picture',
      group: 'Finish',
      keys: ['e'],
      step: 'finish',
      idle: () => (bench.inputs.stages.sharpening ? null : 'Nothing is sharpened: set Sharpening first.'),
      run() {
        finishView(bench).page = 'sharpening';
        bench.view.sharpened = !bench.view.sharpened;
      }
    }
  ]
});

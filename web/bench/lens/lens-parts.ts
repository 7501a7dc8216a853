import { stepParts } from '../parts/step-parts.ts';
import LensDeck from './LensDeck.svelte';
import LensOverlay from './LensOverlay.svelte';
import { createLensTool } from './lens-tool.svelte.ts';
import { lensView } from './lens-view.svelte.ts';

export const lensParts = stepParts({
  deck: LensDeck,
  overlay: LensOverlay,
  createTool: createLensTool,
  commands: (bench, _, tool) => [
    {
      id: 'end-straight',
      label: 'End the straight mark being drawn',
      group: 'Lens',
      keys: ['Enter'],
      step: 'lens',
      idle: () => (tool.corners.length > 1 ? null : 'No mark is being drawn.'),
      run: () => void tool.end()
    },
    {
      id: 'drop-straight',
      label: 'Drop what is being drawn',
      group: 'Lens',
      keys: ['Escape'],
      step: 'lens',
      run() {
        tool.drop();
        lensView(bench).tool = 'none';
      }
    }
  ]
});

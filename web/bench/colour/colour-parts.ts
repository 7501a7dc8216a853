import { stepParts } from '../parts/step-parts.ts';
import ColourDeck from './ColourDeck.svelte';
import { createColourTool } from './colour-tool.ts';
import { colourView } from './colour-view.svelte.ts';

export const colourParts = stepParts({
  deck: ColourDeck,
  overlay: null,
  createTool: createColourTool,
  commands: (bench) => [
    {
      id: 'pick-neutral',
      label: 'Pick what is to be neutral',
      group: 'Colour',
      step: 'colour',
      keys: ['n'],
      run() {
        colourView(bench).page = 'balance';
        colourView(bench).tool = 'neutral';
      }
    },
    {
      id: 'pick-nothing',
      label: 'Pick nothing after all',
      group: 'Colour',
      step: 'colour',
      keys: ['Escape'],
      run: () => (colourView(bench).tool = 'none')
    }
  ]
});

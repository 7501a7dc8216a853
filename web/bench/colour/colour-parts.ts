import { stepParts } from '../parts/step-parts.ts';
import ColourDeck from './ColourDeck.svelte';
import { createColourTool } from './colour-tool.ts';

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
        bench.view.colourPage = 'balance';
        bench.view.colourTool = 'neutral';
      }
    },
    {
      id: 'pick-nothing',
      label: 'Pick nothing after all',
      group: 'Colour',
      step: 'colour',
      keys: ['Escape'],
      run: () => (bench.view.colourTool = 'none')
    }
  ]
});

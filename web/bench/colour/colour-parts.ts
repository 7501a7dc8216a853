import { stepParts } from '../step-parts.ts';
import ColourDeck from './ColourDeck.svelte';
import { createNeutralPicker } from './neutral-picker.ts';

export const colourParts = stepParts({
  deck: ColourDeck,
  overlay: null,
  createTool: createNeutralPicker,
  commands: (bench) => [
    {
      id: 'pick-neutral',
      label: 'Pick what is to be neutral',
      group: 'Colour',
      step: 'colour',
      keys: ['n'],
      run: () => (bench.view.picking = true)
    },
    {
      id: 'pick-nothing',
      label: 'Pick nothing after all',
      group: 'Colour',
      step: 'colour',
      keys: ['Escape'],
      run: () => (bench.view.picking = false)
    }
  ]
});

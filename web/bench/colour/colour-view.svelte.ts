import { stepView } from '../parts/step-view.ts';

export type ColourPage = 'balance' | 'hues' | 'zones' | 'cast' | 'primaries' | 'mono' | 'looks';

export const colourView = stepView(() => {
  const view = $state({
    page: 'balance' as ColourPage,
    /** What a press on the picture picks: what is to be neutral, another such place, or a hue to drag. */
    tool: 'none' as 'none' | 'neutral' | 'another' | 'hue',
    /** What the last pick said. */
    said: '',
    /** The node on the strip of hues that is in hand, by its place, and which of its curves is dragged. */
    hueNode: null as number | null,
    hueCurve: 'chroma' as 'hue' | 'chroma' | 'light'
  });
  return view;
});

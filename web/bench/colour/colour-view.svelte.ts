import type { Vector3 } from '$core/math/vector3.ts';
import { stepView } from '../parts/step-view.ts';

export type ColourPage = 'balance' | 'hues' | 'zones' | 'cast' | 'primaries' | 'mono' | 'looks';

export const colourView = stepView(() => {
  const view = $state({
    page: 'balance' as ColourPage,
    /** What a press on the picture picks: what is to be neutral, another such place, or a hue to drag. */
    tool: 'none' as 'none' | 'neutral' | 'another' | 'hue',
    /** What the last pick said. */
    said: '',
    /** The light that by itself set, and another that it found beside it, for one press. */
    balanced: null as Vector3 | null,
    otherLight: null as Vector3 | null,
    /** The node on the strip of hues that is in hand, by its place, and which of its curves is dragged. */
    hueNode: null as number | null,
    hueCurve: 'chroma' as 'hue' | 'chroma' | 'light'
  });
  return view;
});

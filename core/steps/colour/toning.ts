import type { ColourSettings } from './step.ts';

type Zones = Pick<ColourSettings, 'zoneShadows' | 'zoneMiddle' | 'zoneHighlights' | 'zoneAll'>;

const zone = (hue: number, chroma: number) => ({ hue, chroma, light: 0, saturation: 0 });
const NONE = zone(0, 0);

/** Ready tones of one, two and three colours. */
export const TONINGS: Record<'none' | 'sepia' | 'cool' | 'duotone' | 'tritone', Zones> = {
  none: { zoneShadows: NONE, zoneMiddle: NONE, zoneHighlights: NONE, zoneAll: NONE },
  sepia: { zoneShadows: NONE, zoneMiddle: NONE, zoneHighlights: NONE, zoneAll: zone(70, 35) },
  cool: { zoneShadows: NONE, zoneMiddle: NONE, zoneHighlights: NONE, zoneAll: zone(250, 20) },
  duotone: { zoneShadows: zone(255, 30), zoneMiddle: NONE, zoneHighlights: zone(75, 25), zoneAll: NONE },
  tritone: {
    zoneShadows: zone(260, 30),
    zoneMiddle: zone(30, 15),
    zoneHighlights: zone(85, 25),
    zoneAll: NONE
  }
};

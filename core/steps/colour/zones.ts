/** Shadows, middle and highlights by lightness (of OKLab), and what is added to the colours of each: zones, and casts taken away. */
import { smoothstep } from '../../math/smoothstep.ts';
import type { ColourSettings, Zone } from './step.ts';

/** Entries of the table over lightness, with one more to interpolate to. */
export const ZONE_STEPS = 256;
/** Numbers of an entry. */
export const ZONE_ENTRY = 8;
/** Chroma and lightness that 100 adds. */
const FULL_CHROMA = 0.12;
const FULL_LIGHT = 0.2;
/** Lightness below which colour is added only in part: black stays black. */
const DARK = 0.12;

export type Weights = readonly [shadows: number, middle: number, highlights: number];

/** Shares of the three zones at a lightness, 1 together. `balance` moves where they meet, `blend` widens it; in percent. */
export function zoneWeights(light: number, balance = 0, blend = 50): Weights {
  const shift = -balance / 400;
  const half = 0.03 + (0.27 * blend) / 100;
  // What the shadows lose is never less than what the highlights have: they rise in the same way, and later.
  const shadows = 1 - smoothstep(0.4 + shift - half, 0.4 + shift + half, light);
  const highlights = smoothstep(0.72 + shift - half, 0.72 + shift + half, light);
  return [shadows, 1 - shadows - highlights, highlights];
}

const isZone = ({ chroma, light, saturation }: Zone): boolean =>
  chroma !== 0 || light !== 0 || saturation !== 0;

const zonesOf = ({
  zoneShadows,
  zoneMiddle,
  zoneHighlights
}: ColourSettings): readonly [Zone, Zone, Zone] => [zoneShadows, zoneMiddle, zoneHighlights];

const usesZones = (settings: ColourSettings): boolean =>
  [...zonesOf(settings), settings.zoneAll].some(isZone);

export const takesCast = ({ cast, castFound }: ColourSettings): boolean =>
  cast !== 0 &&
  [castFound.shadows, castFound.middle, castFound.highlights].some(({ a, b }) => a !== 0 || b !== 0);

/** Whether the table of zones changes anything. */
export const changesZones = (settings: ColourSettings): boolean => usesZones(settings) || takesCast(settings);

/** For each lightness: a and b before all else, a and b after it, lightness, a factor. */
export function zoneTable(settings: ColourSettings): Float32Array {
  const zones = zonesOf(settings);
  const casts = [settings.castFound.shadows, settings.castFound.middle, settings.castFound.highlights];
  const table = new Float32Array((ZONE_STEPS + 1) * ZONE_ENTRY);
  for (let i = 0; i <= ZONE_STEPS; i++) {
    const light = i / ZONE_STEPS;
    const weights = zoneWeights(light, settings.zonesMeet, settings.zonesBlend);
    const plain = zoneWeights(light);
    const there = Math.min(1, light / DARK);
    let [castA, castB, a, b, added, saturation] = [0, 0, 0, 0, 0, 0];
    const add = (zone: Zone, weight: number): void => {
      const angle = (zone.hue * Math.PI) / 180;
      const chroma = (zone.chroma / 100) * FULL_CHROMA * (settings.zonesAmount / 100) * weight * there;
      a += chroma * Math.cos(angle);
      b += chroma * Math.sin(angle);
      // Ends stay: black is black, and white is white.
      added += (zone.light / 100) * FULL_LIGHT * weight * 4 * light * Math.max(0, 1 - light);
      saturation += zone.saturation * weight;
    };
    zones.forEach((zone, z) => add(zone, weights[z]));
    add(settings.zoneAll, 1);
    casts.forEach((cast, z) => {
      castA -= (settings.cast / 100) * plain[z] * cast.a * there;
      castB -= (settings.cast / 100) * plain[z] * cast.b * there;
    });
    table.set([castA, castB, a, b, added, Math.max(0, 1 + saturation / 100), 0, 0], i * ZONE_ENTRY);
  }
  return table;
}

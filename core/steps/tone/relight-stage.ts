/**
 * Tone that looks about: highlights, shadows, bands, local contrast and haze. One gain for each pixel by the broad light
 * about it, before white balance, so that no balance changes what counts as light or dark.
 */
import { LUMINANCE_REC2020 } from '../../colour/primaries.ts';
import { addressOf } from '../../picture/kernels/heap.ts';
import { kernels } from '../../picture/kernels/kernels.ts';
import { gainedNodes } from '../lens/falloff-stage.ts';
import type { Falloff } from '../../optics/falloff.ts';
import { LIGHT, lightResource } from '../../measure/light/light-resource.ts';
import { FLOOR } from '../../measure/light/average-light.ts';
import { keepingLast } from '../../settings/keeping-last.ts';
import { RENDITION, type Rendition } from '../../settings/rendition.ts';
import { cellNodes } from '../../picture/tile/cell-nodes.ts';
import { addresses } from '../../picture/tile/planes.ts';
import { resourceFor } from '../../picture/tile/resource.ts';
import type { PixelStage } from '../../picture/tile/stage.ts';
import { LEAST_CLEARED, VEIL_STEPS, veilTable } from './clear-haze.ts';
import { FIRST_STOP, PER_STOP, relightTable } from './relight.ts';
import { type ToneSettings, looksAbout } from './step.ts';

interface Given {
  plan: { falloff: Falloff | null };
  recipe: { rendition: Rendition; tone: ToneSettings };
}

export interface RelightData {
  settings: ToneSettings;
  /** The grid is of the file's light; falloff was made good since. */
  falloff: Falloff | null;
}

/** How a rendition relights. */
export interface Relighting {
  rendition: Rendition;
  ask: { resource: 'light'; data: { rendition: Rendition } };
  /** Stops to add by the base, from the first stop on. */
  stops: (settings: ToneSettings) => Float32Array;
  /** Veils by the share of haze, `VEIL_STEPS` and one more, and the least that is left of a colour without its veil. */
  veils: (settings: ToneSettings) => Float32Array;
  leastCleared: number;
  /** How much of its distance from a base local contrast adds at 100: fine, middle, broad; it takes no more away than all. */
  mostDetail: readonly [number, number, number];
  /** Whether each base is told from the finer one before it, and what keeps a distance from growing: by its size, by its square. */
  layered: boolean;
  held: readonly [number, number];
}

/** A distance, in stops, from which on what stands out is an edge. */
const EDGE = 0.25;

const PRESENT: Relighting = {
  rendition: RENDITION,
  ask: LIGHT,
  stops: keepingLast(relightTable),
  veils: keepingLast(veilTable),
  leastCleared: LEAST_CLEARED,
  mostDetail: [1.15, 1.1, 1.15],
  layered: true,
  held: [0, 1 / EDGE ** 2]
};

export const relightStageOf = <Name extends string>(
  name: Name,
  how: Relighting
): PixelStage<Name, Given, RelightData> => ({
  name,
  kind: 'pixel',
  prepare: ({ plan: { falloff }, recipe: { rendition, tone } }) =>
    rendition === how.rendition && looksAbout(tone) ? { settings: tone, falloff } : null,
  reads: () => [how.ask],
  begin(tile, { settings, falloff }, arena) {
    const { mesh, resources } = tile;
    const light = resourceFor(resources, lightResource, how.ask.data);
    const stops = how.stops(settings);
    const local = [settings.fine, settings.middle, settings.broad];
    const numbers = arena.addressOf([
      ...LUMINANCE_REC2020,
      FLOOR,
      0,
      ...local.map(
        (value, i) => (value / 100) * (value < 0 ? Math.min(1, how.mostDetail[i]) : how.mostDetail[i])
      ),
      FIRST_STOP,
      PER_STOP,
      stops.length,
      VEIL_STEPS,
      how.leastCleared,
      ...light.air,
      how.layered ? 1 : 0,
      ...how.held
    ]);
    const [x, y] = cellNodes(tile, light, arena);
    const gained = gainedNodes(tile, falloff, arena) || addressOf(arena.float32(mesh.x.length).fill(0));
    const table = arena.addressOf(stops);
    const veils = settings.haze === 0 ? 0 : arena.addressOf(how.veils(settings));
    const [bases, air] = [addressOf(light.bases), settings.haze === 0 ? 0 : addressOf(light.haze)];
    const work = addressOf(arena.float32(2 * (tile.width + 8)));
    const { relightRow } = kernels();
    return (rows) => {
      for (let row = 0; row < rows.height; row++) {
        const [r, g, b] = addresses(rows, row * rows.width);
        relightRow(
          r,
          g,
          b,
          rows.width,
          x,
          y,
          gained,
          mesh.columns,
          mesh.step,
          rows.top + row,
          rows.left,
          bases,
          air,
          light.width,
          light.height,
          numbers,
          table,
          veils,
          work
        );
      }
    };
  }
});

export const relightStage = relightStageOf('relight', PRESENT);

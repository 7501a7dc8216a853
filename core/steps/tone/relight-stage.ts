/**
 * Tone that looks about: highlights, shadows, bands, local contrast and haze. One gain for each pixel by the broad light
 * about it, before white balance, so that no balance changes what counts as light or dark.
 */
import { LUMINANCE_REC2020 } from '../../colour/primaries.ts';
import type { Arena } from '../../picture/kernels/arena.ts';
import { addressOf } from '../../picture/kernels/heap.ts';
import { kernels } from '../../picture/kernels/kernels.ts';
import { gainNodes } from '../lens/falloff-stage.ts';
import type { Falloff } from '../../optics/falloff.ts';
import { LIGHT, lightResource } from '../../measure/light/light-resource.ts';
import { FLOOR } from '../../measure/light/measure-light.ts';
import { keepingLast } from '../../settings/keeping-last.ts';
import type { FrameLight } from '../../measure/light/frame-light.ts';
import { addresses } from '../../picture/tile/planes.ts';
import { resourceFor } from '../../picture/tile/resource.ts';
import type { PixelStage } from '../../picture/tile/stage.ts';
import type { Tile } from '../../picture/tile/tile.ts';
import { FIRST_STOP, PER_STOP, relightTable } from './relight.ts';
import { type ToneSettings, looksAbout } from './step.ts';

interface Given {
  plan: { falloff: Falloff | null };
  recipe: { tone: ToneSettings };
}

export interface RelightData {
  settings: ToneSettings;
  /** The grid is of the file's light; falloff was made good since. */
  falloff: Falloff | null;
}

/** Gains below this are of no picture. */
const LEAST_GAIN = 1e-3;
/** How much of its distance from a base local contrast adds at 100: fine, middle, broad. */
const MOST_DETAIL = { fine: 0.8, middle: 0.6, broad: 0.5 };
/** The largest share of haze that is taken away: some air is left in every distance. */
const MOST_HAZE = 0.9;
/** The share of haze at which its removal begins when only the farthest is meant. */
const FARTHEST = 0.7;

const stopsOf = keepingLast(relightTable);

/** The mesh's nodes in cells of the grid, and the stops that the falloff's correction added at each. */
function nodesOf(tile: Tile, light: FrameLight, falloff: Falloff | null, arena: Arena): number[] {
  const { mesh, size } = tile;
  const nodes = (of: (i: number) => number): number => {
    const values = arena.float32(mesh.x.length);
    for (let i = 0; i < values.length; i++) values[i] = of(i);
    return addressOf(values);
  };
  const green = falloff && gainNodes(tile, falloff, arena)[1];
  return [
    nodes((i) => (mesh.x[i] * light.width) / size.width - 0.5),
    nodes((i) => (mesh.y[i] * light.height) / size.height - 0.5),
    nodes((i) => (green ? Math.log2(Math.max(LEAST_GAIN, green[i])) : 0))
  ];
}

export const relightStage: PixelStage<'relight', Given, RelightData> = {
  name: 'relight',
  kind: 'pixel',
  prepare: ({ plan: { falloff }, recipe: { tone } }) =>
    looksAbout(tone) ? { settings: tone, falloff } : null,
  reads: () => [LIGHT],
  begin(tile, { settings, falloff }, arena) {
    const { mesh, resources } = tile;
    const light = resourceFor(resources, lightResource, LIGHT.data);
    const { fine, middle, broad, haze, hazeDepth } = settings;
    const stops = stopsOf(settings);
    const numbers = arena.addressOf([
      ...LUMINANCE_REC2020,
      FLOOR,
      0,
      (MOST_DETAIL.fine * fine) / 100,
      (MOST_DETAIL.middle * middle) / 100,
      (MOST_DETAIL.broad * broad) / 100,
      FIRST_STOP,
      PER_STOP,
      stops.length,
      (MOST_HAZE * haze) / 100,
      FARTHEST * (1 - hazeDepth / 100),
      ...light.air
    ]);
    const [x, y, gained] = nodesOf(tile, light, falloff, arena);
    const table = arena.addressOf(stops);
    const [bases, air] = [addressOf(light.bases), haze === 0 ? 0 : addressOf(light.haze)];
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
          work
        );
      }
    };
  }
};

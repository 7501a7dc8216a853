/**
 * Tone that looks about: highlights, shadows, bands, local contrast and haze. One gain for each pixel by the broad light
 * about it, before white balance, so that no balance changes what counts as light or dark.
 */
import { LUMINANCE_REC2020 } from '../../colour/primaries.ts';
import { addressOf } from '../../picture/kernels/heap.ts';
import { kernels } from '../../picture/kernels/kernels.ts';
import { gainedNodes } from '../lens/falloff-stage.ts';
import type { Falloff } from '../../optics/falloff.ts';
import { askForLight, lightResource } from '../../measure/light/light-resource.ts';
import type { Arena } from '../../picture/kernels/arena.ts';
import { halfDiagonal } from '../../math/frame-geometry.ts';
import { FLOOR } from '../../measure/light/average-light.ts';
import { keepingLast } from '../../settings/keeping-last.ts';
import { RENDITION, type Rendition } from '../../settings/rendition.ts';
import { cellNodes } from '../../picture/tile/cell-nodes.ts';
import { addresses } from '../../picture/tile/planes.ts';
import { type Ask, resourceFor } from '../../picture/tile/resource.ts';
import type { PixelStage } from '../../picture/tile/stage.ts';
import type { ReadingTile, Rows } from '../../picture/tile/tile.ts';
import { LEAST_CLEARED, VEIL_STEPS, veilTable } from './clear-haze.ts';
import type { FrameDetails } from './local/measure-details.ts';
import { askForDetails, detailsResource } from './local/details-resource.ts';
import { FIRST_STOP, PER_STOP, relightTable } from './relight.ts';
import { LOCAL, type ToneSettings, localContrast, looksAbout } from './step.ts';

interface Given {
  plan: { falloff: Falloff | null };
  laid: Ask | null;
  recipe: { rendition: Rendition; tone: ToneSettings };
}

export interface RelightData {
  settings: ToneSettings;
  /** The grid is of the file's light; falloff was made good since. */
  falloff: Falloff | null;
  /** The frame with what was laid into it, where something was: light is measured on it. */
  laid: Ask | null;
}

/** How a rendition relights. */
export interface Relighting {
  rendition: Rendition;
  /** Stops to add by the base, from the first stop on. */
  stops: (settings: ToneSettings) => Float32Array;
  /** Veils by the share of haze, `VEIL_STEPS` and one more, and the least that is left of a colour without its veil. */
  veils: (settings: ToneSettings) => Float32Array;
  leastCleared: number;
  /** What local contrast is told by: the distances from the bases, or the details of the frame. */
  local: FromBases | 'details';
}

/** Local contrast as renditions before the present one had it. */
export interface FromBases {
  /** How much of its distance from a base local contrast adds at 100: fine, middle, broad; it takes no more away than all. */
  mostDetail: readonly [number, number, number];
  /** Whether each base is told from the finer one before it, and what keeps a distance from growing: by its size, by its square. */
  layered: boolean;
  held: readonly [number, number];
}

/** How much of the details local contrast takes away at -100: what stands out most in a band of sizes weighs more than one in it. */
const LEAST_DETAIL = 0.8;

export const PRESENT: Relighting = {
  rendition: RENDITION,
  stops: keepingLast(relightTable),
  veils: keepingLast(veilTable),
  leastCleared: LEAST_CLEARED,
  local: 'details'
};

/** How much of each distance from a base is added. */
function fromBases(settings: ToneSettings, local: Relighting['local']): readonly number[] {
  if (local === 'details') return [0, 0, 0, 0, 0, 0];
  const { mostDetail, layered, held } = local;
  const details = LOCAL.map((name, i) => {
    const most = settings[name] < 0 ? Math.min(1, mostDetail[i]) : mostDetail[i];
    return (settings[name] / 100) * most;
  });
  return [...details, layered ? 1 : 0, ...held];
}

/** How much of each detail is added. */
const amountsOf = (settings: ToneSettings): number[] =>
  LOCAL.map((name) => (settings[name] / 100) * (settings[name] < 0 ? LEAST_DETAIL : 1));

export const relightStageOf = <Name extends string>(
  name: Name,
  how: Relighting
): PixelStage<Name, Given, RelightData> => ({
  name,
  kind: 'pixel',
  prepare: ({ plan: { falloff }, laid, recipe: { rendition, tone } }) =>
    rendition === how.rendition && looksAbout(tone) ? { settings: tone, falloff, laid } : null,
  reads: ({ settings, laid }): Ask[] => {
    const light = askForLight(how.rendition, laid);
    return how.local === 'details' && localContrast(settings) ? [light, askForDetails(laid)] : [light];
  },
  begin(tile, { settings, falloff, laid }, arena) {
    const { mesh, resources } = tile;
    const light = resourceFor(resources, lightResource, askForLight(how.rendition, laid).data);
    const stops = how.stops(settings);
    const [fine, middle, broad, ...held] = fromBases(settings, how.local);
    const numbers = arena.addressOf([
      ...LUMINANCE_REC2020,
      FLOOR,
      ...[0, fine, middle, broad],
      FIRST_STOP,
      PER_STOP,
      stops.length,
      VEIL_STEPS,
      how.leastCleared,
      ...light.air,
      ...held
    ]);
    const [x, y] = cellNodes(tile, light, arena);
    const gained = gainedNodes(tile, falloff, arena) || addressOf(arena.float32(mesh.x.length).fill(0));
    const table = arena.addressOf(stops);
    const veils = settings.haze === 0 ? 0 : arena.addressOf(how.veils(settings));
    const [bases, air] = [addressOf(light.bases), settings.haze === 0 ? 0 : addressOf(light.haze)];
    const work = addressOf(arena.float32(2 * (tile.width + 8)));
    const { relightRow } = kernels();
    const details =
      how.local === 'details' && localContrast(settings)
        ? detailsOfRows(tile, laid, amountsOf(settings), gained, numbers, arena)
        : () => 0;
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
          details(rows, row),
          work
        );
      }
    };
  }
});

/** Which of the planes of fine contrast has cells as large as a tile's pixels, or the nearest to them. */
function levelOf({ view, size }: ReadingTile, { width, fine }: FrameDetails): number {
  const cell = size.width / width / halfDiagonal(size);
  return Math.min(fine.length - 1, Math.max(0, Math.round(Math.log2(view.pixel / cell))));
}

/** Answers the address of the stops that the details of the frame add to a row, before it is changed. */
function detailsOfRows(
  tile: ReadingTile,
  laid: Ask | null,
  amounts: readonly number[],
  gained: number,
  numbers: number,
  arena: Arena
): (rows: Rows, row: number) => number {
  const details = resourceFor(tile.resources, detailsResource, askForDetails(laid).data);
  const { columns, step } = tile.mesh;
  const level = levelOf(tile, details);
  const [width, height] = [details.width, details.height].map((cells) => cells / 2 ** level);
  const [x, y] = cellNodes(tile, { width, height }, arena);
  const fine = amounts[0] === 0 ? 0 : addressOf(details.fine[level]);
  const lines = amounts[1] === 0 && amounts[2] === 0 ? 0 : addressOf(details.lines);
  const shares = arena.addressOf([...amounts, 2 ** (level - 1)]);
  const [stops, out] = [0, 1].map(() => addressOf(arena.float32(tile.width + 3)));
  const { detailRow, logLight } = kernels();
  return (rows, row) => {
    const count = rows.width;
    const [r, g, b] = addresses(rows, row * count);
    logLight(r, g, b, count, numbers, stops);
    const mesh = [x, y, gained, columns, step, rows.top + row, rows.left] as const;
    const cells = [fine, Math.ceil(width), Math.ceil(height), lines, details.across, details.down] as const;
    detailRow(stops, count, ...mesh, ...cells, shares, out);
    return out;
  };
}

export const relightStage = relightStageOf('relight', PRESENT);

/**
 * Another sky in the place of the one that an area covers. Where a pixel shows both the sky and what stands before it, the old sky
 * is taken out of it by as much as there is of it (matting: Porter & Duff, SIGGRAPH 1984): what is left is the light of the roof
 * or the branch alone, and no rim of the old sky stays.
 */
import { smoothstep } from '../../../math/smoothstep.ts';
import type { Falloff } from '../../../optics/falloff.ts';
import { halfDiagonal } from '../../../math/frame-geometry.ts';
import type { PixelStage } from '../../../picture/tile/stage.ts';
import { bilinear } from '../../../picture/tile/bilinear.ts';
import { resourceFor } from '../../../picture/tile/resource.ts';
import type { ReadingTile, Rows } from '../../../picture/tile/tile.ts';
import type { Arena } from '../../../picture/kernels/arena.ts';
import { gainNodes } from '../../lens/falloff-stage.ts';
import { maskAsk, maskResource } from '../mask-resource.ts';
import type { MaskSpec } from '../shape.ts';
import { type AreasSettings, areasAtWork, maskOf } from '../step.ts';

import { laySky, skyAt } from './lay-sky.ts';
import { matchingGains } from './match-sky.ts';
import { askForSky, skyResource } from './sky-resource.ts';
import type { SkySettings } from './sky-settings.ts';

interface Given {
  plan: { falloff: Falloff | null };
  recipe: { areas: AreasSettings };
}

export interface SkyData {
  areas: readonly { id: string; mask: MaskSpec; opacity: number; sky: SkySettings }[];
  falloff: Falloff | null;
}

/** From this weight on a pixel shows more of the sky's own shapes than of what stands before it, until it is all sky. */
const MOSTLY = 0.75;
/** Light of the old sky that counts as none. */
const SPECK = 1e-5;

export const areaSkyStage: PixelStage<'areaSky', Given, SkyData> = {
  name: 'areaSky',
  kind: 'pixel',
  prepare({ plan: { falloff }, recipe: { areas } }) {
    const works = areasAtWork(areas).flatMap(({ area, shape }) =>
      area.sky ? [{ id: area.id, mask: maskOf(area, shape), opacity: area.opacity / 100, sky: area.sky }] : []
    );
    return works.length === 0 ? null : { areas: works, falloff };
  },
  reads: ({ areas }) => areas.flatMap(({ mask, sky }) => [maskAsk(mask), askForSky(sky.picture)]),
  begin(tile, { areas, falloff }, arena) {
    const { left, top, pixel } = tile.view;
    const upright: Laying['upright'] = (row, column, out) => {
      out.x = left + (column + 0.5) * pixel;
      out.y = top + (row + 0.5) * pixel;
    };
    const how = { pixel, upright, falloff, darkened: null };
    const laid = areas.map((area) => layingSky(tile, area, how, arena));
    return (rows) => laid.forEach((lay) => lay(rows));
  }
};

/** How a sky is laid into the pixels of a tile. */
export interface Laying {
  /** Upright units of one pixel. */
  pixel: number;
  /** Writes the upright position of a pixel; NaN where it has none. */
  upright(row: number, column: number, out: { x: number; y: number }): void;
  /** The falloff that was made good in the pixels, which masks did not know. */
  falloff: Falloff | null;
  /** The falloff that will be made good after it: the sky is laid in as dark as it would have come through the glass. */
  darkened: Falloff | null;
}

/** Makes a function that lays a sky into rows of a tile, in the working space. */
export function layingSky(
  tile: ReadingTile,
  { id, mask, opacity, sky: settings }: SkyData['areas'][number],
  { pixel, upright, falloff, darkened }: Laying,
  arena: Arena
): (rows: Rows) => void {
  const { size, resources } = tile;
  const { inside } = resourceFor(resources, maskResource, mask);
  const picture = resourceFor(resources, skyResource, { id: settings.picture });
  const unit = halfDiagonal(size);
  const half = { x: size.width / 2 / unit, y: size.height / 2 / unit };
  const laid = laySky(picture, settings, half, pixel);
  if (!inside) throw new Error('A mask that a sky is laid through knows the colours inside of it.');
  // Where nothing is surely sky there is none to match, or to take out: it is mixed in as it is.
  const gains = inside.mean ? matchingGains(inside.mean, picture.mean, settings.match / 100) : [1, 1, 1];
  const place = placing(tile, falloff ?? darkened, arena);
  const light = new Float64Array(3);
  const at = { x: 0, y: 0, gains: new Float64Array(3) };
  const behind = { x: 0, y: 0 };
  /** Light of the old sky. */
  const old = new Float64Array(3);
  return (rows) => {
    const weights = rows.weights?.get(id);
    if (!weights) return;
    const planes = [rows.r, rows.g, rows.b] as const;
    for (let row = 0; row < rows.height; row++) {
      for (let column = weights.from[row]; column < weights.to[row]; column++) {
        const i = row * rows.width + column;
        const weight = weights.values[i] / opacity;
        if (!(weight > 0) || rows.valid[i] === 0) continue;
        upright(rows.top + row, rows.left + column, behind);
        if (Number.isNaN(behind.x)) continue;
        skyAt(laid, behind.x, behind.y, light);
        const whole = inside.mean ? smoothstep(MOSTLY, 1, weight) : 1;
        let share = weight;
        if (whole < 1 || darkened) place(rows.top + row, rows.left + column, at);
        if (darkened) for (let c = 0; c < 3; c++) light[c] /= at.gains[c];
        if (whole < 1) {
          const cellX = (at.x * inside.width) / size.width;
          const cellY = (at.y * inside.height) / size.height;
          for (let c = 0; c < 3; c++) {
            old[c] = Math.max(
              SPECK,
              bilinear(inside.planes[c], inside.width, inside.height, cellX, cellY) *
                (falloff ? at.gains[c] : 1)
            );
            // A pixel cannot hold more of the old sky than it has light.
            share = Math.min(share, Math.max(0, planes[c][i] / old[c]));
          }
          share += (weight - share) * whole;
        }
        for (let c = 0; c < 3; c++) {
          const own = planes[c][i];
          const gone = whole < 1 ? old[c] + (own - old[c]) * whole : own;
          const changed = Math.max(0, own + share * (light[c] * gains[c] - gone));
          planes[c][i] = own + opacity * (changed - own);
        }
      }
    }
  };
}

/** Makes a function that tells where a pixel of a tile lies on the sensor, and what falloff was made good by there. */
function placing(
  { mesh, ...tile }: ReadingTile,
  falloff: Falloff | null,
  arena: Arena
): (row: number, column: number, out: { x: number; y: number; gains: Float64Array }) => void {
  const { columns, step } = mesh;
  const nodes = falloff ? gainNodes({ mesh, ...tile }, falloff, arena) : null;
  return (row, column, out) => {
    const [px, py] = [(column + 0.5) / step, (row + 0.5) / step];
    const [meshColumn, meshRow] = [px | 0, py | 0];
    const [fx, fy] = [px - meshColumn, py - meshRow];
    const i = meshRow * columns + meshColumn;
    const between = (of: Float32Array): number =>
      (of[i] * (1 - fx) + of[i + 1] * fx) * (1 - fy) +
      (of[i + columns] * (1 - fx) + of[i + columns + 1] * fx) * fy;
    out.x = between(mesh.x);
    out.y = between(mesh.y);
    for (let c = 0; c < 3; c++) out.gains[c] = nodes ? between(nodes[c]) : 1;
  };
}

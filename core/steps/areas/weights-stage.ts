/**
 * How much every pixel belongs to each area. Reckoned right after the working space, by the light that the masks were drawn
 * by, and left with the rows for the stages in which areas act.
 */
import type { Falloff } from '../../optics/falloff.ts';
import type { Arena } from '../../picture/kernels/arena.ts';
import type { Planes } from '../../picture/tile/planes.ts';
import type { PixelStage } from '../../picture/tile/stage.ts';
import type { Rows } from '../../picture/tile/tile.ts';
import { gainedNodes } from '../lens/falloff-stage.ts';
import { maskAsk } from './mask-resource.ts';
import { type AreasSettings, areasAtWork, maskOf } from './step.ts';
import { type Weighed, weighingRows } from './weigh-rows.ts';

interface Given {
  plan: { falloff: Falloff | null };
  recipe: { areas: AreasSettings };
}

export interface WeightsData {
  areas: readonly Weighed[];
  /** The pixels as they came are kept, for what begins anew with them. */
  keeps: boolean;
  /** Masks are drawn by the file's light; falloff was made good since. */
  falloff: Falloff | null;
}

export const areaWeightsStage: PixelStage<'areaWeights', Given, WeightsData> = {
  name: 'areaWeights',
  kind: 'pixel',
  prepare({ plan: { falloff }, recipe: { areas } }) {
    const atWork = areasAtWork(areas);
    const works = atWork.map(({ area, shape }) => ({
      id: area.id,
      mask: maskOf(area, shape),
      opacity: area.opacity / 100
    }));
    if (works.length === 0) return null;
    return { areas: works, keeps: atWork.some(({ area }) => area.revision !== null), falloff };
  },
  reads: ({ areas }) => areas.map(({ mask }) => maskAsk(mask)),
  begin(tile, { areas, keeps, falloff }, arena) {
    const weigh = weighingRows(tile, areas, gainedNodes(tile, falloff, arena), arena);
    const kept = keeping();
    return (rows) => {
      const weights = weigh(rows);
      if (keeps) rows.asCame = kept(rows, arena);
      rows.weights = weights;
    };
  }
};

/** Makes a function that copies rows, always into the same memory. */
function keeping(): (rows: Rows, arena: Arena) => Planes {
  let memory: Planes | null = null;
  return (rows, arena) => {
    const { width, height } = rows;
    const size = width * height;
    if (!memory || memory.r.length < size) {
      const plane = (): Float32Array => arena.float32(size);
      memory = { width, height, r: plane(), g: plane(), b: plane() };
    }
    for (const plane of ['r', 'g', 'b'] as const) memory[plane].set(rows[plane]);
    return memory;
  };
}

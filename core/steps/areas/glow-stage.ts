/** Glow in areas: that of Finish, by weight, or less of it. */
import { addressOf } from '../../picture/kernels/heap.ts';
import type { PixelStage } from '../../picture/tile/stage.ts';
import { glowAsk } from '../finish/glow/glow-resource.ts';
import {
  type GlowData,
  type GlowGiven,
  addingGlow,
  glowAmount,
  glowSpecOf
} from '../finish/glow/glow-stage.ts';
import { type AreasSettings, areasChanging } from './step.ts';

interface Given extends GlowGiven {
  recipe: GlowGiven['recipe'] & { areas: AreasSettings };
}

export interface AreaGlowData extends Omit<GlowData, 'amount'> {
  areas: readonly { id: string; amount: number }[];
}

export const areaGlowStage: PixelStage<'areaGlow', Given, AreaGlowData> = {
  name: 'areaGlow',
  kind: 'pixel',
  prepare({ recipe, plan: { falloff }, laid }) {
    const { enabled, glow: whole } = recipe.finish;
    /** Below 0, a share of what Finish added is taken back. */
    const ofWhole = enabled ? whole / 100 : 0;
    const areas = areasChanging(recipe.areas).flatMap(({ id, settings: { finish } }) => {
      const amount = glowAmount(finish.glow < 0 ? finish.glow * ofWhole : finish.glow);
      return amount === 0 ? [] : [{ id, amount }];
    });
    return areas.length === 0 ? null : { areas, spec: glowSpecOf({ recipe, laid }), falloff };
  },
  reads: ({ spec }) => [glowAsk(spec)],
  begin(tile, data, arena) {
    const add = addingGlow(tile, data, arena);
    return (rows) => {
      for (const { id, amount } of data.areas) {
        const weights = rows.weights?.get(id);
        if (!weights) continue;
        for (let row = 0; row < rows.height; row++) {
          const [from, to] = [weights.from[row], weights.to[row]];
          if (from < to)
            add(rows, row, { from, to }, amount, addressOf(weights.values) + 4 * (row * rows.width + from));
        }
      }
    };
  }
};

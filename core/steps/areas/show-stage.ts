/** A mask in place of the picture: white where all of a place belongs to it. For looking at it, never for delivery. */
import { weightsAsGrey } from '../../picture/output/show-weights.ts';
import type { PixelStage } from '../../picture/tile/stage.ts';

export interface ShownMask {
  /** The area whose mask is shown. */
  area: string;
}

export const areaShowStage: PixelStage<'areaShow', unknown, ShownMask> = {
  name: 'areaShow',
  kind: 'pixel',
  prepare: () => null,
  begin(_, { area }, arena) {
    const show = weightsAsGrey(arena);
    return (rows) => {
      const weights = rows.weights?.get(area);
      rows.r.fill(0);
      for (let row = 0; weights && row < rows.height; row++) {
        const [from, to] = [weights.from[row], weights.to[row]].map((column) => row * rows.width + column);
        rows.r.set(weights.values.subarray(from, to), from);
      }
      show(rows);
    };
  }
};

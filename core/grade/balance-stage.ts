/** White balance: working colours as shot to those of the balance that is asked for. */
import { kernels } from '../kernels/kernels.ts';
import type { Matrix3 } from '../math/matrix3.ts';
import { addresses } from '../tile/planes.ts';
import type { PixelStage } from '../tile/tile.ts';
import type { ColourSettings } from './step.ts';
import { balanceMatrix } from './white-balance.ts';

interface Given {
  recipe: { colour: ColourSettings };
}

export interface BalanceData {
  matrix: Matrix3;
}

export const balanceStage: PixelStage<'balance', Given, BalanceData> = {
  name: 'balance',
  kind: 'pixel',
  prepare: ({ recipe: { colour } }) =>
    colour.enabled && (colour.warmth !== 0 || colour.tint !== 0) ? { matrix: balanceMatrix(colour) } : null,
  begin(_, { matrix }, arena) {
    const at = arena.addressOf(matrix);
    const { mixColours } = kernels();
    return (rows) => mixColours(...addresses(rows), rows.r.length, at, Infinity);
  }
};

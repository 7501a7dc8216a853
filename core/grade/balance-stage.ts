/** White balance and primaries: working colours as shot to those that are asked for. */
import { kernels } from '../kernels/kernels.ts';
import { IDENTITY, type Matrix3, multiply } from '../math/matrix3.ts';
import { addresses } from '../tile/planes.ts';
import type { PixelStage } from '../tile/tile.ts';
import { movesPrimaries, primariesMatrix } from './primaries-matrix.ts';
import type { ColourSettings } from './step.ts';
import { balanceMatrix } from './white-balance.ts';

interface Given {
  recipe: { colour: ColourSettings };
}

const balances = ({ warmth, tint }: ColourSettings): boolean => warmth !== 0 || tint !== 0;
const changesBalance = (colour: ColourSettings): boolean =>
  colour.enabled && (balances(colour) || movesPrimaries(colour));

/** All that is done to linear colours: white balance, then primaries. */
export function linearMatrix(colour: ColourSettings): Matrix3 {
  const balance = balances(colour) ? balanceMatrix(colour) : IDENTITY;
  return movesPrimaries(colour) ? multiply(primariesMatrix(colour), balance) : balance;
}

export interface BalanceData {
  matrix: Matrix3;
}

export const balanceStage: PixelStage<'balance', Given, BalanceData> = {
  name: 'balance',
  kind: 'pixel',
  prepare: ({ recipe: { colour } }) => (changesBalance(colour) ? { matrix: linearMatrix(colour) } : null),
  begin(_, { matrix }, arena) {
    const at = arena.addressOf(matrix);
    const { mixColours } = kernels();
    return (rows) => mixColours(...addresses(rows), rows.r.length, at, Infinity);
  }
};

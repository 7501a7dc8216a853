/** White balance and primaries: working colours as shot to those that are asked for. */
import { kernels } from '../../picture/kernels/kernels.ts';
import { type CameraWhite, cameraBalance } from '../../optics/camera-white.ts';
import { type Matrix3, multiply } from '../../math/matrix3.ts';
import { addresses } from '../../picture/tile/planes.ts';
import type { PixelStage } from '../../picture/tile/stage.ts';
import { movesPrimaries, primariesMatrix } from './primaries-matrix.ts';
import type { ColourSettings } from './step.ts';
import { balanceMatrix } from './white-balance.ts';

interface Given {
  facts: BalanceFacts;
  recipe: { colour: ColourSettings };
}

/** What a file tells of its own colours. */
export interface BalanceFacts {
  toWorking: Matrix3;
  white?: CameraWhite | null;
}

/** Working colours as shot to those of the white balance that is asked for; null where it is as shot. */
export function balanceOf(colour: ColourSettings, { white, toWorking }: BalanceFacts): Matrix3 | null {
  const { enabled, kelvin, kelvinTint, warmth, tint } = colour;
  if (!enabled) return null;
  if (white && kelvin !== null) return cameraBalance(white, toWorking, { kelvin, tint: kelvinTint });
  return warmth !== 0 || tint !== 0 ? balanceMatrix(colour) : null;
}

/** All that is done to linear colours: white balance, then primaries. Null where it is nothing. */
export function linearMatrix(colour: ColourSettings, facts: BalanceFacts): Matrix3 | null {
  if (!colour.enabled) return null;
  const balance = balanceOf(colour, facts);
  if (!movesPrimaries(colour)) return balance;
  return balance ? multiply(primariesMatrix(colour), balance) : primariesMatrix(colour);
}

export interface BalanceData {
  matrix: Matrix3;
}

export const balanceStage: PixelStage<'balance', Given, BalanceData> = {
  name: 'balance',
  kind: 'pixel',
  prepare({ facts, recipe: { colour } }) {
    const matrix = linearMatrix(colour, facts);
    return matrix && { matrix };
  },
  begin(_, { matrix }, arena) {
    const at = arena.addressOf(matrix);
    const { mixColours } = kernels();
    return (rows) => mixColours(...addresses(rows), rows.r.length, at, Infinity);
  }
};

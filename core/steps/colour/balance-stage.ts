/** White balance and primaries: working colours as shot to those that are asked for. */
import { kernels } from '../../picture/kernels/kernels.ts';
import { type CameraWhite, cameraBalance, gainBalance } from '../../optics/camera-white.ts';
import { type Matrix3, multiply } from '../../math/matrix3.ts';
import { addresses } from '../../picture/tile/planes.ts';
import type { PixelStage } from '../../picture/tile/stage.ts';
import { movesPrimaries, primariesMatrix } from './primaries-matrix.ts';
import type { ColourSettings } from './step.ts';
import { FIRST_RENDITION, type Rendition } from '../../settings/rendition.ts';
import { balanceMatrix, evenBalance } from './white-balance.ts';

interface Given {
  facts: BalanceFacts;
  recipe: { rendition: Rendition; colour: ColourSettings };
}

/** What a file tells of its own colours. */
export interface BalanceFacts {
  toWorking: Matrix3;
  white?: CameraWhite | null;
}

/**
 * Working colours as shot to those of the white balance that is asked for; null where it is as shot. The first rendition balanced by
 * gains alone, and greys became darker or lighter by it.
 */
export function balanceOf(
  { rendition, colour }: Given['recipe'],
  { white, toWorking }: BalanceFacts
): Matrix3 | null {
  const { enabled, kelvin, kelvinTint, warmth, tint } = colour;
  const first = rendition === FIRST_RENDITION;
  if (!enabled) return null;
  if (white && kelvin !== null)
    return (first ? gainBalance : cameraBalance)(white, toWorking, { kelvin, tint: kelvinTint });
  return warmth !== 0 || tint !== 0 ? (first ? balanceMatrix : evenBalance)(colour) : null;
}

/** All that is done to linear colours: white balance, then primaries. Null where it is nothing. */
export function linearMatrix(recipe: Given['recipe'], facts: BalanceFacts): Matrix3 | null {
  const { colour } = recipe;
  if (!colour.enabled) return null;
  const balance = balanceOf(recipe, facts);
  if (!movesPrimaries(colour)) return balance;
  return balance ? multiply(primariesMatrix(colour), balance) : primariesMatrix(colour);
}

export interface BalanceData {
  matrix: Matrix3;
}

export const balanceStage: PixelStage<'balance', Given, BalanceData> = {
  name: 'balance',
  kind: 'pixel',
  prepare({ facts, recipe }) {
    const matrix = linearMatrix(recipe, facts);
    return matrix && { matrix };
  },
  begin(_, { matrix }, arena) {
    const at = arena.addressOf(matrix);
    const { mixColours } = kernels();
    return (rows) => mixColours(...addresses(rows), rows.r.length, at, Infinity);
  }
};

/**
 * Clipped light stays white whatever the white balance: what clipped was rebuilt as the camera's own white, and another balance
 * would tint it. It is made the colour that the balance makes white, before light is changed and nothing tells any more what
 * clipped.
 */
import { LUMINANCE_REC2020 } from '../colour/primaries.ts';
import { kernels } from '../kernels/kernels.ts';
import { apply, invert3 } from '../math/matrix3.ts';
import type { Vector3 } from '../math/vector3.ts';
import { addresses } from '../tile/planes.ts';
import type { PixelStage } from '../tile/tile.ts';
import { type BalanceFacts, balanceOf } from './balance-stage.ts';
import type { ColourSettings } from './step.ts';

interface Given {
  facts: BalanceFacts;
  recipe: { colour: ColourSettings };
}

export interface ClippedData {
  /** The working colour that the balance makes white. */
  white: Vector3;
}

/** The least of a colour's values from which it counts as clipped in part, up to 1. */
const BEGINS = 0.92;

export const clippedStage: PixelStage<'clipped', Given, ClippedData> = {
  name: 'clipped',
  kind: 'pixel',
  prepare({ facts, recipe: { colour } }) {
    const balance = colour.enabled ? balanceOf(colour, facts) : null;
    return balance && { white: apply(invert3(balance), [1, 1, 1]) };
  },
  begin(_, { white }, arena) {
    const numbers = arena.addressOf([...LUMINANCE_REC2020, ...white, BEGINS]);
    const { drawClipped } = kernels();
    return (rows) => drawClipped(...addresses(rows), rows.r.length, numbers);
  }
};

/**
 * The plain rendering of raw files: the base curve, given per colour in sRGB's primaries, so that all output spaces show the
 * same. What lies outside sRGB has a colour below zero there, which keeps its sign through the curve.
 */
import type { Rendering } from '../camera/frame-facts.ts';
import { STEPS, tabulate } from '../colour/look-up-table.ts';
import { REC2020_TO_SRGB } from '../colour/primaries.ts';
import { keptTable } from '../kernels/heap.ts';
import { kernels } from '../kernels/kernels.ts';
import { invert3 } from '../math/matrix3.ts';
import { addresses } from '../tile/planes.ts';
import type { PixelStage } from '../tile/tile.ts';
import { baseCurve } from './base-curve.ts';

interface Given {
  facts: { rendering: Rendering };
}

export interface ToneData {
  rendering: 'plain';
}

const FROM_SRGB = invert3(REC2020_TO_SRGB);
let table: Float32Array | null = null;

export const toneStage: PixelStage<'tone', Given, ToneData> = {
  name: 'tone',
  kind: 'pixel',
  // Finished pictures are of a display already.
  prepare: ({ facts }) => (facts.rendering === 'scene' ? { rendering: 'plain' } : null),
  begin(_, __, arena) {
    const curve = keptTable((table ??= tabulate(baseCurve)));
    const toSrgb = arena.addressOf(REC2020_TO_SRGB);
    const fromSrgb = arena.addressOf(FROM_SRGB);
    const { lookUpPlane, mixColours } = kernels();
    return (rows) => {
      const { length } = rows.r;
      const planes = addresses(rows);
      mixColours(...planes, length, toSrgb, Infinity);
      for (const plane of planes) lookUpPlane(plane, length, curve, STEPS, 1);
      mixColours(...planes, length, fromSrgb, Infinity);
    };
  }
};

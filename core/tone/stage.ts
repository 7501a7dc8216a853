/**
 * The plain rendering of raw files: the base curve, given per colour in sRGB's primaries, so that all output spaces show the
 * same. What lies outside sRGB has a colour below zero there, which keeps its sign through the curve.
 */
import type { Rendering } from '../camera/frame-facts.ts';
import { lookUp, tabulate } from '../colour/look-up-table.ts';
import { REC2020_TO_SRGB } from '../colour/primaries.ts';
import { invert3 } from '../math/matrix3.ts';
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

const displayed = (curve: Float32Array, linear: number): number =>
  linear < 0 ? -lookUp(curve, -linear) : lookUp(curve, linear);

export const toneStage: PixelStage<'tone', Given, ToneData> = {
  name: 'tone',
  kind: 'pixel',
  // Finished pictures are of a display already.
  prepare: ({ facts }) => (facts.rendering === 'scene' ? { rendering: 'plain' } : null),
  begin() {
    const curve = (table ??= tabulate(baseCurve));
    const [m0, m1, m2, m3, m4, m5, m6, m7, m8] = REC2020_TO_SRGB;
    const [n0, n1, n2, n3, n4, n5, n6, n7, n8] = FROM_SRGB;
    return ({ r, g, b }) => {
      const { length } = r;
      for (let i = 0; i < length; i++) {
        const ri = r[i];
        const gi = g[i];
        const bi = b[i];
        const red = displayed(curve, m0 * ri + m1 * gi + m2 * bi);
        const green = displayed(curve, m3 * ri + m4 * gi + m5 * bi);
        const blue = displayed(curve, m6 * ri + m7 * gi + m8 * bi);
        r[i] = n0 * red + n1 * green + n2 * blue;
        g[i] = n3 * red + n4 * green + n5 * blue;
        b[i] = n6 * red + n7 * green + n8 * blue;
      }
    };
  }
};

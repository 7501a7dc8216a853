/** The file's own colours to the working space: linear Rec.2020, in which values below 0 and above 1 are lawful. */
import type { Matrix3 } from '../math/matrix3.ts';
import type { PixelStage } from '../tile/tile.ts';

interface Given {
  facts: { toWorking: Matrix3 };
}

export interface WorkingData {
  /** The file's own (white-balanced) colours to linear Rec.2020. */
  toWorking: Matrix3;
}

export const workingStage: PixelStage<'working', Given, WorkingData> = {
  name: 'working',
  kind: 'pixel',
  prepare: ({ facts: { toWorking } }) => ({ toWorking }),
  begin(_, { toWorking: [m0, m1, m2, m3, m4, m5, m6, m7, m8] }) {
    return ({ r, g, b }) => {
      const { length } = r;
      for (let i = 0; i < length; i++) {
        // In the plain rendering all that reaches white in the file's colours is white: beyond it, the colours that still
        // differ would tint it.
        const red = r[i] > 1 ? 1 : r[i];
        const green = g[i] > 1 ? 1 : g[i];
        const blue = b[i] > 1 ? 1 : b[i];
        r[i] = m0 * red + m1 * green + m2 * blue;
        g[i] = m3 * red + m4 * green + m5 * blue;
        b[i] = m6 * red + m7 * green + m8 * blue;
      }
    };
  }
};

/** The working space to encoded values, 0..1, of the space that a picture leaves in. */
import { encodingTable, lookUp } from '../colour/look-up-table.ts';
import { REC2020_TO_SRGB } from '../colour/primaries.ts';
import { type OutputSpace, RGB_SPACES, betweenSpaces } from '../colour/rgb-spaces.ts';
import { multiply } from '../math/matrix3.ts';
import type { PixelStage } from '../tile/tile.ts';

export interface EncodeData {
  space: OutputSpace;
}

export const encodeStage: PixelStage<'encode', EncodeData, EncodeData> = {
  name: 'encode',
  kind: 'pixel',
  prepare: ({ space }) => ({ space }),
  begin(_, { space }) {
    const table = encodingTable(space);
    const matrix = multiply(betweenSpaces(RGB_SPACES.srgb, RGB_SPACES[space]), REC2020_TO_SRGB);
    const [m0, m1, m2, m3, m4, m5, m6, m7, m8] = matrix;
    return ({ r, g, b }) => {
      const { length } = r;
      for (let i = 0; i < length; i++) {
        const red = r[i];
        const green = g[i];
        const blue = b[i];
        r[i] = lookUp(table, m0 * red + m1 * green + m2 * blue);
        g[i] = lookUp(table, m3 * red + m4 * green + m5 * blue);
        b[i] = lookUp(table, m6 * red + m7 * green + m8 * blue);
      }
    };
  }
};

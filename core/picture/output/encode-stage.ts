/** The working space to encoded values, 0..1, of the space that a picture leaves in. */
import { STEPS, encodingTable } from '../../colour/look-up-table.ts';
import { REC2020_TO_SRGB } from '../../colour/primaries.ts';
import { type OutputSpace, RGB_SPACES, betweenSpaces } from '../../colour/rgb-spaces.ts';
import { keptTable } from '../kernels/heap.ts';
import { kernels } from '../kernels/kernels.ts';
import { multiply } from '../../math/matrix3.ts';
import { addresses } from '../tile/planes.ts';
import type { PixelStage } from '../tile/stage.ts';

export interface EncodeData {
  space: OutputSpace;
}

export const encodeStage: PixelStage<'encode', EncodeData, EncodeData> = {
  name: 'encode',
  kind: 'pixel',
  prepare: ({ space }) => ({ space }),
  begin(_, { space }, arena) {
    const table = keptTable(encodingTable(space));
    const matrix = arena.addressOf(
      multiply(betweenSpaces(RGB_SPACES.srgb, RGB_SPACES[space]), REC2020_TO_SRGB)
    );
    const { lookUpPlane, mixColours } = kernels();
    return (rows) => {
      const { length } = rows.r;
      const planes = addresses(rows);
      mixColours(...planes, length, matrix, Infinity);
      for (const plane of planes) lookUpPlane(plane, length, table, STEPS, 0);
    };
  }
};

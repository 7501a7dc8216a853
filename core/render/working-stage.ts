/** The file's own colours to the working space: linear Rec.2020, in which values below 0 and above 1 are lawful. */
import { kernels } from '../picture/kernels/kernels.ts';
import type { Matrix3 } from '../math/matrix3.ts';
import { addresses } from '../picture/tile/planes.ts';
import type { PixelStage } from '../picture/tile/stage.ts';

interface Given {
  facts: { toWorking: Matrix3 };
  /** Whether light above white is cut off, as the first rendition did where nothing brought it back. */
  cutsLight: boolean;
}

export interface WorkingData {
  /** The file's own (white-balanced) colours to linear Rec.2020. */
  toWorking: Matrix3;
  /** The most that a colour of the file counts as; null: as it is. */
  most: number | null;
}

export const workingStage: PixelStage<'working', Given, WorkingData> = {
  name: 'working',
  kind: 'pixel',
  prepare: ({ facts: { toWorking }, cutsLight }) => ({ toWorking, most: cutsLight ? 1 : null }),
  begin(_, { toWorking, most }, arena) {
    const matrix = arena.addressOf(toWorking);
    const { mixColours } = kernels();
    return (rows) => mixColours(...addresses(rows), rows.r.length, matrix, most ?? Infinity);
  }
};

/** The file's own colours to the working space: linear Rec.2020, in which values below 0 and above 1 are lawful. */
import { kernels } from '../picture/kernels/kernels.ts';
import type { Matrix3 } from '../math/matrix3.ts';
import { addresses } from '../picture/tile/planes.ts';
import type { PixelStage } from '../picture/tile/stage.ts';

interface Given {
  facts: { toWorking: Matrix3 };
  /** Light above white is of use: what follows brings it back, or lets it fade. */
  keepsHeadroom: boolean;
}

export interface WorkingData {
  /** The file's own (white-balanced) colours to linear Rec.2020. */
  toWorking: Matrix3;
  keepsHeadroom: boolean;
}

export const workingStage: PixelStage<'working', Given, WorkingData> = {
  name: 'working',
  kind: 'pixel',
  prepare: ({ facts: { toWorking }, keepsHeadroom }) => ({ toWorking, keepsHeadroom }),
  begin(_, { toWorking, keepsHeadroom }, arena) {
    const matrix = arena.addressOf(toWorking);
    const { mixColours } = kernels();
    // In the plain rendering all that reaches white in the file's colours is white: beyond it, the colours that still differ
    // would tint it.
    return (rows) => mixColours(...addresses(rows), rows.r.length, matrix, keepsHeadroom ? Infinity : 1);
  }
};

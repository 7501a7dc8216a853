/** Weights in place of a picture: for looking at where something acts, never for delivery. */
import { srgbDecode } from '../../colour/srgb-transfer.ts';
import { STEPS, tabulate } from '../../colour/look-up-table.ts';
import type { Arena } from '../kernels/arena.ts';
import { addressOf } from '../kernels/heap.ts';
import { kernels } from '../kernels/kernels.ts';
import type { Rows } from '../tile/tile.ts';

/** What makes the red plane's values, 0..1, greys whose code they are. */
export function weightsAsGrey(arena: Arena): (planes: Pick<Rows, 'r' | 'g' | 'b'>) => void {
  const table = arena.addressOf(tabulate(srgbDecode));
  return ({ r, g, b }) => {
    kernels().bendPlane(addressOf(r), r.length, table, STEPS, 1, 0);
    g.set(r);
    b.set(r);
  };
}

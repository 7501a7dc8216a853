import { OutOfMemory, addressOf, giveBack, isShared, takeUint16 } from '../kernels/heap.ts';
import { kernels } from '../kernels/kernels.ts';
import type { KernelFunctions } from '../kernels/module.ts';
import { mosaicRoot } from './mosaic-root.ts';
import type { Mosaic } from './mosaic.ts';

/** Does work on a mosaic that the kernels were told of; its values are copied to their memory where they stand elsewhere. */
export function withMosaic(mosaic: Mosaic, work: (functions: KernelFunctions) => number): void {
  const { data, stride, left, top, width, height, pattern, black, white, multipliers } = mosaic;
  const colours = pattern.reduce((packed: number, colour, i) => packed | (colour << (2 * i)), 0);
  const functions = kernels();
  const copy = isShared(data) ? null : takeUint16(data.length);
  try {
    copy?.set(data);
    const at = addressOf(copy ?? data);
    functions.describeMosaic(at, stride, left, top, width, height, colours, black, white, ...multipliers);
    const { floor, red, blue } = mosaicRoot(mosaic);
    functions.describeRoot(floor, red.dark, red.light, blue.dark, blue.light);
    if (!work(functions)) throw new OutOfMemory();
  } finally {
    if (copy) giveBack(copy);
  }
}

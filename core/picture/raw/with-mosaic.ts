import { OutOfMemory, addressOf, giveBack, isShared, takeUint16 } from '../kernels/heap.ts';
import { type KernelFunctions, kernels } from '../kernels/kernels.ts';
import type { Mosaic } from './mosaic.ts';

/** Does work on a mosaic that the kernels were told of; its values are copied to their memory where they stand elsewhere. */
export function withMosaic(mosaic: Mosaic, work: (functions: KernelFunctions) => 0 | 1): void {
  const { data, stride, left, top, width, height, pattern, black, white, multipliers } = mosaic;
  const copy = isShared(data) ? null : takeUint16(data.length);
  copy?.set(data);
  const colours = pattern.reduce((packed: number, colour, i) => packed | (colour << (2 * i)), 0);
  const functions = kernels();
  const at = addressOf(copy ?? data);
  functions.describeMosaic(at, stride, left, top, width, height, colours, black, white, ...multipliers);
  const done = work(functions);
  if (copy) giveBack(copy);
  if (!done) throw new OutOfMemory();
}

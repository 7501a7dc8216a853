/** Output sharpening in bands over the pool. */
import type { FrameSize } from '../../core/math/frame-geometry.ts';
import type { SharpenOptions } from '../../core/picture/output/sharpen.ts';
import { takeUint16, takeUint8 } from '../../core/picture/kernels/heap.ts';
import { type Pool, inBands } from './pool.ts';

const BAND = 256;

export async function sharpenInPool(
  pixels: Uint8Array | Uint16Array,
  size: FrameSize,
  options: SharpenOptions,
  pool: Pool,
  signal?: AbortSignal
): Promise<Uint8Array | Uint16Array> {
  const out = pixels instanceof Uint16Array ? takeUint16(pixels.length) : takeUint8(pixels.length);
  await inBands(size.height, BAND, signal, (from, to) =>
    pool.run({ pixels, size, out, options, from, to }, { name: 'sharpenRows', signal })
  );
  return out;
}

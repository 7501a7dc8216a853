/** A developed source and a recipe to encoded pixels at an output size, in bands over the pool. */
import { type FrameSize, halfDiagonal } from '../../core/math/frame-geometry.ts';
import type { Look } from '../../core/steps/colour/looks/look.ts';
import type { Matrix3 } from '../../core/math/matrix3.ts';
import { needsLight } from '../../core/render/stages.ts';
import { cropView } from '../../core/render/plan.ts';
import type { RenderInputs } from '../../core/render/render-inputs.ts';
import { giveBack, takeUint16, takeUint8 } from '../../core/picture/kernels/heap.ts';
import type { Halves, WorkOptions } from './linear-source.ts';
import { takeColourTable } from './take-table.ts';
import { type Pool, inBands } from './pool.ts';
import type { RenderTask } from './worker.ts';

const BAND = 128;

export interface RenderRequest {
  source: Halves;
  inputs: Pick<RenderInputs, 'plan' | 'stages'>;
  /** Of the file. */
  toWorking: Matrix3;
  /** The look that the stages name, in memory that threads share. */
  look?: Look | null;
  size: FrameSize;
  depth: 8 | 16;
}

/** Interleaved RGB of 8 or 16 bits; its memory is the caller's to give back. */
export async function renderPixels(
  { source: halves, inputs: { plan, stages }, toWorking, look = null, size, depth }: RenderRequest,
  pool: Pool,
  { signal, onProgress }: WorkOptions = {}
): Promise<Uint8Array | Uint16Array> {
  const view = cropView(plan.crop, size);
  const source = await halves.halfFor(view.pixel * halfDiagonal(plan.projection.size), signal);
  const pixels = size.width * size.height;
  const [light, table] = await Promise.all([
    needsLight(stages) ? halves.light(toWorking) : null,
    depth === 8 ? takeColourTable({ source, toWorking, stages, look, pixels }, pool, signal) : null
  ]);
  signal?.throwIfAborted();
  const out =
    depth === 16 ? takeUint16(size.width * size.height * 3) : takeUint8(size.width * size.height * 3);
  await inBands(
    size.height,
    BAND,
    signal,
    (from, to) => {
      const task: RenderTask = { source, light, look, table, stages, view, from, to, out };
      return pool.run(task, { name: 'render', signal });
    },
    onProgress
  );
  if (table) giveBack(table);
  return out;
}

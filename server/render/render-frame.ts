/** A developed source and a recipe to encoded pixels at an output size, in bands over the pool. */
import { type FrameSize, halfDiagonal } from '../../core/math/frame-geometry.ts';
import { asksOf } from '../../core/render/stages.ts';
import { cropView } from '../../core/render/plan.ts';
import type { RenderInputs } from '../../core/render/render-inputs.ts';
import { takeUint16, takeUint8 } from '../../core/picture/kernels/heap.ts';
import { filled } from '../../core/picture/kernels/scope.ts';
import type { FrameResources } from './frame-resources.ts';
import type { Halves, WorkOptions } from './linear-source.ts';
import { shareInputs } from './shared-inputs.ts';
import { type Pool, inBands } from './pool.ts';
import type { RenderTask } from './worker.ts';

/** Rows that a thread does at a time; between two of them it looks whether it is to stop. */
const BAND = 128;

export interface RenderRequest {
  source: Halves;
  inputs: Pick<RenderInputs, 'plan' | 'stages'>;
  resources: FrameResources;
  size: FrameSize;
  depth: 8 | 16;
}

/** Interleaved RGB of 8 or 16 bits; its memory is the caller's to give back. */
export async function renderPixels(
  { source: halves, inputs: { plan, stages }, resources, size, depth }: RenderRequest,
  pool: Pool,
  { signal, onProgress }: WorkOptions = {}
): Promise<Uint8Array | Uint16Array> {
  const view = cropView(plan.crop, size);
  const source = await halves.halfFor(view.pixel * halfDiagonal(plan.projection.size), signal);
  const pixels = size.width * size.height;
  const shared = shareInputs(stages);
  const lease = await resources.lease(asksOf(stages), signal);
  try {
    return await filled(depth === 16 ? takeUint16(pixels * 3) : takeUint8(pixels * 3), (out) =>
      inBands(
        size.height,
        BAND,
        signal,
        (from, to) => {
          const task: RenderTask = { source, stages: shared, resources: lease.values, view, from, to, out };
          return pool.run(task, { name: 'render', signal });
        },
        onProgress
      )
    );
  } finally {
    lease.end();
  }
}

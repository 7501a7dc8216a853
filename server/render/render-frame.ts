/** A linear source and a recipe to encoded pixels at an output size, in bands over the pool. */
import { type FrameSize, halfDiagonal } from '../../core/math/frame-geometry.ts';
import type { FrameFacts } from '../../core/camera/frame-facts.ts';
import type { Rectangle } from '../../core/crop/rectangle.ts';
import type { OutputSpace } from '../../core/colour/rgb-spaces.ts';
import type { FringeColour } from '../../core/fringe/remove-fringe.ts';
import type { Look } from '../../core/output/quantise.ts';
import { type Plan, cropView } from '../../core/render/plan.ts';
import { lentUint16, lentUint8 } from './lent-memory.ts';
import type { Halves, WorkOptions } from './linear-source.ts';
import { type Pool, inBands } from './pool.ts';
import type { RenderTask } from './worker.ts';

const BAND = 128;

export interface RenderRequest {
  source: Halves;
  plan: Plan;
  facts: Pick<FrameFacts, 'rendering' | 'toWorking'>;
  fringes: readonly FringeColour[];
  size: FrameSize;
  depth: 8 | 16;
  /** Colour space of the pixels (default sRGB). */
  space?: OutputSpace;
  /** Part of the upright plane to render (default: the plan's crop). */
  area?: Rectangle;
}

/** Interleaved RGB of 8 or 16 bits; its memory is the caller's to give back. */
export async function renderPixels(
  request: RenderRequest,
  pool: Pool,
  { signal, onProgress }: WorkOptions = {}
): Promise<Uint8Array | Uint16Array> {
  const { plan, facts, fringes, size, depth } = request;
  const view = cropView(request.area ?? plan.crop, size);
  const reduction = view.pixel * halfDiagonal(plan.projection.size);
  const source = await request.source.halfFor(reduction, signal);
  const out =
    depth === 16 ? lentUint16(size.width * size.height * 3) : lentUint8(size.width * size.height * 3);
  const look: Look = {
    rendering: facts.rendering,
    toWorking: facts.toWorking,
    falloff: plan.falloff,
    size: plan.projection.size,
    space: request.space
  };
  await inBands(
    size.height,
    BAND,
    signal,
    (from, to) => {
      const task: RenderTask = { source, projection: plan.projection, view, from, to, look, fringes, out };
      return pool.run(task, { name: 'render', signal });
    },
    onProgress
  );
  return out;
}

/** What a frame's own edges say of red and blue, kept beside its proxy. */
import { fitLateral } from '../../core/measure/lateral/fit-lateral.ts';
import type { LateralEdge } from '../../core/measure/lateral/measure-edges.ts';
import type { Lateral } from '../../core/optics/lens-model.ts';
import { type FrameSize, halfDiagonal } from '../../core/math/frame-geometry.ts';
import type { Context } from '../context.ts';
import { keepJson, keptJson } from '../originals/kept-json.ts';

export interface FrameEdges {
  /** Edges of the developed picture: what is left to see, for the Fringe reading. */
  edges: LateralEdge[];
  /** Sizes of red and blue, measured on single colours of the mosaic where there is one; else null with the reason. */
  lateral: Lateral | null;
  reason: string;
}

const EDGES = 'edges.json';
const SINGLE = 'single-edges.json';

/** Keeps edges of the developed picture, and those of single colours of the mosaic. */
export async function keepEdges(
  context: Context,
  sha256: string,
  size: FrameSize,
  edges: LateralEdge[],
  single: LateralEdge[]
): Promise<void> {
  const fit = fitLateral(single, halfDiagonal(size));
  const measured: FrameEdges = {
    edges,
    lateral: fit.ok ? fit.lateral : null,
    reason: fit.ok ? '' : fit.reason
  };
  await keepJson(context, sha256, SINGLE, single);
  await keepJson(context, sha256, EDGES, measured);
}

/** The edges of the developed picture as they were measured after the frame was added; null when they were not. */
export const keptEdges = (context: Context, sha256: string): Promise<FrameEdges | null> =>
  keptJson(context, sha256, EDGES);

/** Edges as single colours of the mosaic show them: for measuring a lens from many frames. */
export async function readSingleEdges(context: Context, sha256: string): Promise<LateralEdge[]> {
  return (await keptJson<LateralEdge[]>(context, sha256, SINGLE)) ?? [];
}

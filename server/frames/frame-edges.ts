/** What a frame's own edges say of red and blue, kept beside its proxy. */
import { readFile } from 'node:fs/promises';
import { fitLateral } from '../../core/measure/lateral/fit-lateral.ts';
import type { LateralEdge } from '../../core/measure/lateral/measure-edges.ts';
import type { Lateral } from '../../core/optics/lens-model.ts';
import { type FrameSize, halfDiagonal } from '../../core/math/frame-geometry.ts';
import type { Context } from '../context.ts';
import { writeWhole } from '../originals/write-whole.ts';
import { derivedPath } from '../originals/derived.ts';

export interface FrameEdges {
  /** Edges of the developed picture: what is left to see, for the Fringe reading. */
  edges: LateralEdge[];
  /** Sizes of red and blue, measured on single colours of the mosaic where there is one; else null with the reason. */
  lateral: Lateral | null;
  reason: string;
}

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
  await writeWhole(derivedPath(context.data, sha256, 'single-edges.json'), JSON.stringify(single));
  await writeWhole(derivedPath(context.data, sha256, 'edges.json'), JSON.stringify(measured));
}

const kept = (context: Context, sha256: string, file: string): Promise<string | null> =>
  readFile(derivedPath(context.data, sha256, file), 'utf8').catch(() => null);

/** The edges of the developed picture as they were measured after the frame was added; null when they were not. */
export async function keptEdges(context: Context, sha256: string): Promise<FrameEdges | null> {
  const text = await kept(context, sha256, 'edges.json');
  return text === null ? null : (JSON.parse(text) as FrameEdges);
}

/** Edges as single colours of the mosaic show them: for measuring a lens from many frames. */
export async function readSingleEdges(context: Context, sha256: string): Promise<LateralEdge[]> {
  return JSON.parse((await kept(context, sha256, 'single-edges.json')) ?? '[]') as LateralEdge[];
}

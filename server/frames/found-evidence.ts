/** The lines and edges that were found on a frame when it was added, kept beside its proxy. */
import type { FoundEvidence } from '../../core/render/readings/found-evidence.ts';
import type { Context } from '../context.ts';
import type { FrameEdges } from './frame-edges.ts';
import { keepJson, keptJson } from '../originals/kept-json.ts';

/** All that was measured on a frame when it was added. */
export interface FrameMeasures extends FrameEdges {
  found: FoundEvidence | null;
}

const FILE = 'found.json';

export const keepFound = (context: Context, sha256: string, found: FoundEvidence): Promise<void> =>
  keepJson(context, sha256, FILE, found);

/** Null where nothing was looked for yet. */
export const keptFound = (context: Context, sha256: string): Promise<FoundEvidence | null> =>
  keptJson(context, sha256, FILE);

/** The lines and edges that were found on a frame when it was added, kept beside its proxy. */
import { readFile } from 'node:fs/promises';
import type { FoundEvidence } from '../../core/render/readings/found-evidence.ts';
import type { Context } from '../context.ts';
import type { FrameEdges } from './frame-edges.ts';
import { derivedPath } from '../originals/derived.ts';
import { writeWhole } from '../originals/write-whole.ts';

/** All that was measured on a frame when it was added. */
export interface FrameMeasures extends FrameEdges {
  found: FoundEvidence | null;
}

const pathOf = (context: Context, sha256: string): string => derivedPath(context.data, sha256, 'found.json');

export const keepFound = (context: Context, sha256: string, found: FoundEvidence): Promise<void> =>
  writeWhole(pathOf(context, sha256), JSON.stringify(found));

/** Null where nothing was looked for yet. */
export async function keptFound(context: Context, sha256: string): Promise<FoundEvidence | null> {
  const text = await readFile(pathOf(context, sha256), 'utf8').catch(() => null);
  return text === null ? null : (JSON.parse(text) as FoundEvidence);
}

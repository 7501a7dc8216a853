/** The lines of a frame's picture, kept beside its proxy: what they are depends on the glass that it was looked at through. */
import { readFile } from 'node:fs/promises';
import type { PlacedPlanes } from '../../core/picture/tile/planes.ts';
import type { TrueUpItself } from '../../core/steps/lines/true-up-itself.ts';
import type { Context } from '../context.ts';
import { derivedPath } from '../originals/derived.ts';
import { writeWhole } from '../originals/write-whole.ts';
import { type Glass, lookInPool } from '../render/look-in-pool.ts';
import type { FrameRow } from './frame-row.ts';

interface KeptLines {
  /** As text, to be compared. */
  glass: string;
  lines: TrueUpItself;
}

const pathOf = (context: Context, sha256: string): string => derivedPath(context.data, sha256, 'lines.json');

export function keepLines(
  context: Context,
  sha256: string,
  glass: Glass,
  lines: TrueUpItself
): Promise<void> {
  const kept: KeptLines = { glass: JSON.stringify(glass), lines };
  return writeWhole(pathOf(context, sha256), JSON.stringify(kept));
}

/** Null where they were looked for through another glass, or not yet. */
async function keptLines(context: Context, sha256: string, glass: Glass): Promise<TrueUpItself | null> {
  const text = await readFile(pathOf(context, sha256), 'utf8').catch(() => null);
  if (text === null) return null;
  const kept = JSON.parse(text) as KeptLines;
  return kept.glass === JSON.stringify(glass) ? kept.lines : null;
}

/** Looked for in `planes` where that was not done yet. */
export async function frameLines(
  context: Context,
  { sha256 }: Pick<FrameRow, 'sha256'>,
  glass: Glass,
  planes: () => Promise<PlacedPlanes>
): Promise<TrueUpItself> {
  const kept = await keptLines(context, sha256, glass);
  if (kept) return kept;
  const { lines } = await lookInPool(await planes(), glass, context.pool);
  await keepLines(context, sha256, glass, lines);
  return lines;
}

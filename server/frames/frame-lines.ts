/** The lines of a frame's picture, kept beside its proxy: what they are depends on the glass that it was looked at through. */
import type { PlacedPlanes } from '../../core/picture/tile/planes.ts';
import type { TrueUpItself } from '../../core/steps/lines/true-up-itself.ts';
import type { Context } from '../context.ts';
import { keepJson, keptJson } from '../originals/kept-json.ts';
import { type Glass, lookInPool } from '../render/look-in-pool.ts';
import type { FrameRow } from './frame-row.ts';

interface KeptLines {
  /** As text, to be compared. */
  glass: string;
  lines: TrueUpItself;
}

const FILE = 'lines.json';

export function keepLines(
  context: Context,
  sha256: string,
  glass: Glass,
  lines: TrueUpItself
): Promise<void> {
  const kept: KeptLines = { glass: JSON.stringify(glass), lines };
  return keepJson(context, sha256, FILE, kept);
}

/** Null where they were looked for through another glass, or not yet. */
async function keptLines(context: Context, sha256: string, glass: Glass): Promise<TrueUpItself | null> {
  const kept = await keptJson<KeptLines>(context, sha256, FILE);
  return kept?.glass === JSON.stringify(glass) ? kept.lines : null;
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

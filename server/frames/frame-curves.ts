/** Long edges of a frame, as the glass put them, kept beside its proxy: what a lens is told from. */
import { readFile } from 'node:fs/promises';
import { type Curve, averaged } from '../../core/optics/curve.ts';
import { inScope } from '../../core/picture/kernels/scope.ts';
import type { Context } from '../context.ts';
import { derivedPath } from '../originals/derived.ts';
import { writeWhole } from '../originals/write-whole.ts';
import type { FrameRow } from './frame-row.ts';
import { readProxy } from './proxy.ts';

/** Places kept of an edge. */
const MOST_PLACES = 32;

const pathOf = (context: Context, sha256: string): string => derivedPath(context.data, sha256, 'curves.json');

export const keepCurves = (context: Context, sha256: string, curves: readonly Curve[]): Promise<void> =>
  writeWhole(
    pathOf(context, sha256),
    JSON.stringify(curves.map(({ id, points }) => ({ id, points: averaged(points, MOST_PLACES) })))
  );

/** The edges of a frame, found where that was not done yet. */
export async function frameCurves(context: Context, frame: FrameRow): Promise<Curve[]> {
  const kept = await readFile(pathOf(context, frame.sha256), 'utf8').catch(() => null);
  if (kept !== null) return JSON.parse(kept) as Curve[];
  const curves = await inScope(async ({ ownAll }) => {
    const task = { planes: ownAll(await readProxy(context, frame)), size: frame.facts!.size };
    return (await context.pool.run(task, { name: 'curves' })) as Curve[];
  });
  await keepCurves(context, frame.sha256, curves);
  return curves;
}

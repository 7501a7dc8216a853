/** Long edges of a frame, as the glass put them, kept beside its proxy: what a lens is told from. */
import { type Curve, averaged } from '../../core/optics/curve.ts';
import { inScope } from '../../core/picture/kernels/scope.ts';
import type { Context } from '../context.ts';
import { keepJson, keptJson } from '../originals/kept-json.ts';
import type { FrameRow } from './frame-row.ts';
import { readProxy } from './proxy.ts';

/** Places kept of an edge. */
const MOST_PLACES = 32;

const FILE = 'curves.json';

export const keepCurves = (context: Context, sha256: string, curves: readonly Curve[]): Promise<void> =>
  keepJson(
    context,
    sha256,
    FILE,
    curves.map(({ id, points }) => ({ id, points: averaged(points, MOST_PLACES) }))
  );

/** The edges of a frame, found where that was not done yet. */
export async function frameCurves(context: Context, frame: FrameRow): Promise<Curve[]> {
  const kept = await keptJson<Curve[]>(context, frame.sha256, FILE);
  if (kept) return kept;
  const curves = await inScope(async ({ ownAll }) => {
    const task = { planes: ownAll(await readProxy(context, frame)), size: frame.facts!.size };
    return (await context.pool.run(task, { name: 'curves' })) as Curve[];
  });
  await keepCurves(context, frame.sha256, curves);
  return curves;
}

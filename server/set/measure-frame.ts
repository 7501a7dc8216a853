/** What follows once a frame can be opened: its edges are measured, its lines are found, and it becomes true by itself as far as its job wants. */
import type { FrameFacts } from '../../core/optics/frame-facts.ts';
import type { Context } from '../context.ts';
import { isDatabaseAway } from '../database/away.ts';
import { UserError } from '../user-error.ts';
import type { OnAdding } from '../jobs/jobs.ts';
import { inScope } from '../../core/picture/kernels/scope.ts';
import { originalOf } from '../originals/store-original.ts';
import { developInPool, edgesInPool } from '../render/linear-source.ts';
import { readOriginal } from '../render/read-original.ts';
import type { Work } from '../work/engine.ts';
import { keepEdges, keptEdges } from '../frames/frame-edges.ts';
import { keepCurves } from '../frames/frame-curves.ts';
import { keepFound, keptFound } from '../frames/found-evidence.ts';
import { frameById, isReady } from '../frames/frame-row.ts';
import type { LookedAt } from '../../core/render/readings/found-evidence.ts';
import { layHouseRules, ofAdding } from './house-by-rules.ts';
import { lookAtFrame, trueUpFrame } from './true-up-frame.ts';

interface Measuring {
  id: string;
  job_id: string;
  sha256: string;
  name: string;
  facts: FrameFacts | null;
}

async function measureEdges(context: Context, frame: Measuring, signal: AbortSignal): Promise<void> {
  const { pool, data } = context;
  const { decoded } = await readOriginal(pool, originalOf(data, frame), { signal });
  const { facts, planes } = await developInPool(decoded, pool, { signal });
  const edges = await inScope(({ ownAll }) => edgesInPool(ownAll(planes), pool, { signal }));
  const single = decoded.kind === 'mosaic' ? decoded.edges! : edges;
  await keepEdges(context, frame.sha256, facts.size, edges, single);
}

/** Keeps what the frame shows by itself, for its readings; null where it is gone meanwhile. */
async function findEvidence(context: Context, id: string): Promise<LookedAt | null> {
  const frame = await frameById(context, id);
  if (!isReady(frame)) return null;
  const looked = await lookAtFrame(context, frame);
  await keepFound(context, frame.sha256, looked.evidence);
  await keepCurves(context, frame.sha256, looked.curves);
  return looked;
}

/** Work that was begun and broken off this often is left: the frame can be worked on without. */
const MOST_TRIES = 3;

export async function measureFrame(context: Context, work: Work): Promise<void> {
  const { key: id, tries, signal } = work;
  const { db } = context;
  const { rows } = await db.query<Measuring & { true_up: OnAdding; version: number }>(
    `select f.id, f.job_id, f.sha256, f.name, f.facts, f.version, j.true_up
     from frames f join jobs j on j.id = f.job_id where f.id = $1 and f.state = 'ready' and not f.measured`,
    [id]
  );
  if (rows.length === 0) return;
  const [frame] = rows;
  try {
    if (tries < MOST_TRIES && !(await keptEdges(context, frame.sha256)))
      await measureEdges(context, frame, signal);
    // Before it is looked at: house settings may name its lens.
    if (frame.version === 0) await layHouseRules(context, frame.job_id, [id], ofAdding);
    // Only what nobody has worked on yet: a frame prepared anew keeps its own correction.
    const mode = frame.version === 0 && frame.true_up !== 'none' ? frame.true_up : null;
    const looks = tries < MOST_TRIES && (mode !== null || !(await keptFound(context, frame.sha256)));
    const looked = looks ? await findEvidence(context, id) : null;
    await work.stillHeld();
    if (looked && mode) await trueUpFrame(context, id, mode, looked);
  } catch (error) {
    if (signal.aborted || isDatabaseAway(error)) throw error;
    if (!(error instanceof UserError)) console.error(`frame ${frame.name}:`, error);
  }
  await work.stillHeld();
  await db.query('update frames set measured = true where id = $1', [id]);
  await context.notices.tell({ job: frame.job_id, frame: id });
}

/** What follows once a frame can be opened: its edges are measured, its lines are found, and it becomes true by itself as far as its job wants. */
import type { FrameFacts } from '../../core/optics/frame-facts.ts';
import type { Context } from '../context.ts';
import { isDatabaseAway } from '../database/away.ts';
import { UserError } from '../user-error.ts';
import type { OnAdding } from '../jobs/jobs.ts';
import { inScope } from '../../core/picture/kernels/scope.ts';
import { originalOf } from '../originals/store-original.ts';
import { developInPool, edgesInPool } from '../render/linear-source.ts';
import { glassOf, lookInPool } from '../render/look-in-pool.ts';
import { choiceFor } from '../lenses/lens-choice.ts';
import { readProxy } from '../frames/proxy.ts';
import { completeRecipe } from '../../core/recipe/recipe.ts';
import { readOriginal } from '../render/read-original.ts';
import type { Work } from '../work/engine.ts';
import { keepEdges, keptEdges } from '../frames/frame-edges.ts';
import { keepCurves } from '../frames/frame-curves.ts';
import { keepLines } from '../frames/frame-lines.ts';
import { keepFound, keptFound } from '../frames/found-evidence.ts';
import { frameById, isReady } from '../frames/frame-row.ts';
import { layHouseRules, ofAdding } from './house-by-rules.ts';
import { trueUpFrame } from './true-up-frame.ts';

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

/** Keeps what the frame shows by itself with the lens as its recipe has it; whether it is still there. */
async function findEvidence(context: Context, id: string): Promise<boolean> {
  const frame = await frameById(context, id);
  if (!isReady(frame)) return false;
  const { facts, recipe, sha256 } = frame;
  const glass = glassOf(facts, completeRecipe(recipe), await choiceFor(context, facts, recipe.lens?.profile));
  const { lines, curves, evidence } = await inScope(async ({ ownAll }) =>
    lookInPool(ownAll(await readProxy(context, frame)), glass, context.pool)
  );
  await keepLines(context, sha256, glass, lines);
  await keepFound(context, sha256, evidence);
  await keepCurves(context, sha256, curves);
  return true;
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
    const there = looks && (await findEvidence(context, id));
    await work.stillHeld();
    if (there && mode) await trueUpFrame(context, id, mode);
  } catch (error) {
    if (signal.aborted || isDatabaseAway(error)) throw error;
    if (!(error instanceof UserError)) console.error(`frame ${frame.name}:`, error);
  }
  await work.stillHeld();
  await db.query('update frames set measured = true where id = $1', [id]);
  await context.notices.tell({ job: frame.job_id, frame: id });
}

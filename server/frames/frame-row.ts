import type { FrameSize } from '../../core/math/frame-geometry.ts';
import type { PartialRecipe } from '../../core/recipe/recipe.ts';
import type { Context } from '../context.ts';
import { readRecipe } from '../recipes/read-recipe.ts';
import type { FrameFacts } from '../../core/camera/frame-facts.ts';

export interface FrameRow {
  id: string;
  job_id: string;
  sha256: string;
  name: string;
  state: 'preparing' | 'ready' | 'failed';
  error: string | null;
  facts: FrameFacts | null;
  proxy: FrameSize | null;
  recipe: PartialRecipe;
  version: number;
  /** Whether its edges are measured, and it was trued up as far as its job wants. */
  measured: boolean;
  /** What the frame shows, for file names. */
  room: string;
  /** What truing up by itself last said, until the frame is changed otherwise. */
  lines_said: { ok: boolean; said: string } | null;
}

const COLUMNS =
  'id, job_id, sha256, name, state, error, facts, proxy, recipe, version, room, measured, lines_said';

/** Rows as they are stored: the recipe in whatever format it was written in. */
const present = (row: FrameRow): FrameRow => ({ ...row, recipe: readRecipe(row.recipe) });

/** Frames of a job in their order: all, or some by their ids. */
export async function framesOfJob(
  context: Context,
  jobId: string,
  ids: readonly string[] | null = null
): Promise<FrameRow[]> {
  const { rows } = await context.db.query<FrameRow>(
    `select ${COLUMNS} from frames where job_id = $1 and ($2::uuid[] is null or id = any($2))
     order by name, created_at`,
    [jobId, ids]
  );
  return rows.map(present);
}

export async function frameById(context: Context, id: string): Promise<FrameRow | null> {
  const { rows } = await context.db.query<FrameRow>(`select ${COLUMNS} from frames where id = $1`, [id]);
  return rows[0] ? present(rows[0]) : null;
}

export async function nameRoom(context: Context, id: string, room: string): Promise<void> {
  const { rows } = await context.db.query<{ job_id: string }>(
    'update frames set room = $2 where id = $1 returning job_id',
    [id, room.trim()]
  );
  if (rows[0]) await context.notices.tell({ job: rows[0].job_id, frame: id });
}

/** Takes a frame out of its job; the original stays in the store. */
export async function removeFrame(context: Context, id: string): Promise<void> {
  const { rows } = await context.db.query<{ job_id: string }>(
    'delete from frames where id = $1 returning job_id',
    [id]
  );
  // Without a frame of its own to name: the whole job is told anew.
  if (rows[0]) await context.notices.tell({ job: rows[0].job_id });
}

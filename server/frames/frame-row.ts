import type { FrameSize } from '../../core/math/frame-geometry.ts';
import type { PartialRecipe } from '../../core/recipe/recipe.ts';
import type { App } from '../app.ts';
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
  /** What the frame shows, for file names. */
  room: string;
  /** What truing up by itself last said, until the frame is changed otherwise. */
  lines_said: { ok: boolean; said: string } | null;
}

const COLUMNS = 'id, job_id, sha256, name, state, error, facts, proxy, recipe, version, room, lines_said';

export async function framesOfJob(app: App, jobId: string): Promise<FrameRow[]> {
  const { rows } = await app.db.query<FrameRow>(
    `select ${COLUMNS} from frames where job_id = $1 order by name, created_at`,
    [jobId]
  );
  return rows;
}

export async function frameById(app: App, id: string): Promise<FrameRow | null> {
  const { rows } = await app.db.query<FrameRow>(`select ${COLUMNS} from frames where id = $1`, [id]);
  return rows[0] ?? null;
}

export type Saved =
  { saved: true; version: number } | { saved: false; version: number; recipe: PartialRecipe };

/** Saves a recipe over the version it was made from; tells of a newer one instead of overwriting it. */
export async function saveRecipe(
  app: App,
  id: string,
  version: number,
  recipe: PartialRecipe
): Promise<Saved | null> {
  const updated = await app.db.query<{ version: number }>(
    'update frames set recipe = $3, version = version + 1, lines_said = null where id = $1 and version = $2 returning version',
    [id, version, recipe]
  );
  if (updated.rowCount === 1) return { saved: true, version: updated.rows[0].version };
  const current = await frameById(app, id);
  return current && { saved: false, version: current.version, recipe: current.recipe };
}

export async function nameRoom(app: App, id: string, room: string): Promise<void> {
  await app.db.query('update frames set room = $2 where id = $1', [id, room.trim()]);
}

import { type ExportSettings, completeExport, exportSchema } from '../../core/output/export-schema.ts';
import type { App } from '../app.ts';
import { UserError } from '../decode/user-error.ts';
import { validator } from '../recipe/validate.ts';
import { EXPORT, enqueue } from '../queue.ts';
import { frameById } from '../frames/frame-row.ts';
import type { Report } from '../render/report.ts';

export const validExport = validator<Partial<ExportSettings>>(exportSchema, 'export');

export interface ExportRow {
  id: string;
  frame_id: string;
  settings: ExportSettings;
  state: 'queued' | 'running' | 'done' | 'failed' | 'cancelled';
  progress: number;
  error: string | null;
  file: string | null;
  bytes: number | null;
  report: Report | null;
  created_at: string;
}

const COLUMNS =
  'id, frame_id, settings, state, progress, error, file, bytes::float8 as bytes, report, created_at';

export async function exportById(app: App, id: string): Promise<ExportRow | null> {
  const { rows } = await app.db.query<ExportRow>(`select ${COLUMNS} from exports where id = $1`, [id]);
  return rows[0] ?? null;
}

export async function exportsOfFrame(app: App, frameId: string): Promise<ExportRow[]> {
  const { rows } = await app.db.query<ExportRow>(
    `select ${COLUMNS} from exports where frame_id = $1 order by created_at desc limit 20`,
    [frameId]
  );
  return rows;
}

/** Queues an export of the frame as its recipe stands now. */
export async function requestExport(
  app: App,
  frameId: string,
  settings: Partial<ExportSettings>
): Promise<string> {
  const frame = await frameById(app, frameId);
  if (!frame || frame.state !== 'ready') throw new UserError('This frame is not ready to be exported yet.');
  const { rows } = await app.db.query<{ id: string }>(
    'insert into exports (frame_id, settings, recipe) values ($1, $2, $3) returning id',
    [frameId, completeExport(settings), frame.recipe]
  );
  await enqueue(app, EXPORT, rows[0].id);
  return rows[0].id;
}

/** Cancels an export that is queued or running; one that has ended stays as it is. */
export async function cancelExport(app: App, id: string): Promise<void> {
  await app.db.query(
    `update exports set state = 'cancelled', finished_at = now() where id = $1 and state in ('queued', 'running')`,
    [id]
  );
  app.running.get(id)?.abort();
}

import { join, parse } from 'node:path';
import type { ExportSettings } from '../../core/output/export-schema.ts';
import type { PartialRecipe } from '../../core/recipe/recipe.ts';
import type { App } from '../app.ts';
import { UserError } from '../decode/user-error.ts';
import { choiceFor } from '../lenses/lens-choice.ts';
import { originalPath } from '../originals/store-original.ts';
import { writeWhole } from '../originals/write-whole.ts';
import { exportFrame } from '../render/export-frame.ts';

export function exportPath(data: string, id: string): string {
  return join(data, 'exports', `${id}.jpg`);
}

interface Claimed {
  settings: ExportSettings;
  recipe: PartialRecipe;
  sha256: string;
  name: string;
}

/** Least time between two progress figures written to the database, in milliseconds. */
const PROGRESS_EVERY = 150;

export async function runExport(app: App, id: string): Promise<void> {
  const { rows } = await app.db.query<Claimed>(
    `update exports e set state = 'running', worker = $2, progress = 0 from frames f
     where e.id = $1 and e.state = 'queued' and f.id = e.frame_id
     returning e.settings, e.recipe, f.sha256, f.name`,
    [id, app.worker]
  );
  if (rows.length === 0) return;
  const { settings, recipe, sha256, name } = rows[0];
  const controller = new AbortController();
  app.running.set(id, controller);
  let told = 0;
  const onProgress = (share: number): void => {
    if (performance.now() - told < PROGRESS_EVERY) return;
    told = performance.now();
    app.db
      .query(`update exports set progress = $2 where id = $1 and state = 'running'`, [id, share])
      .catch(() => {});
  };
  try {
    const { quality, longEdge, ppi, keepPosition } = settings;
    const { bytes, report } = await exportFrame(
      {
        path: originalPath(app.data, sha256),
        name,
        recipe,
        choose: (facts) => choiceFor(app, facts, recipe.lens?.profile),
        encoding: { format: 'jpeg', quality, ppi, keepPosition },
        depth: 8,
        longEdge
      },
      app.pool,
      { signal: controller.signal, onProgress }
    );
    await writeWhole(exportPath(app.data, id), bytes);
    await app.db.query(
      `update exports set state = 'done', progress = 1, file = $2, bytes = $3, report = $4, finished_at = now()
       where id = $1 and state = 'running'`,
      [id, `${parse(name).name}.jpg`, bytes.length, report]
    );
  } catch (error) {
    if (controller.signal.aborted) return;
    if (!(error instanceof UserError)) console.error(`export ${name}:`, error);
    const message =
      error instanceof UserError
        ? error.message
        : 'The export failed through a fault in Line True. Try it again.';
    await app.db.query(
      `update exports set state = 'failed', error = $2, finished_at = now() where id = $1 and state = 'running'`,
      [id, message]
    );
  } finally {
    app.running.delete(id);
  }
}

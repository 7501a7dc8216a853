/** Single exports of earlier versions, taken in as deliveries of one: their pictures move to the job's folder. */
import { rename, mkdir, stat } from 'node:fs/promises';
import { join } from 'node:path';
import { completeDeliverable } from '../../core/picture/output/deliverable-schema.ts';
import type { Context } from '../context.ts';
import { folderName, pathInFolder, placeFile } from './delivery-folder.ts';

interface OldExport {
  id: string;
  frame_id: string;
  job_id: string;
  job: string;
  name: string;
  settings: { quality: number; longEdge: number | null; ppi: number; keepPosition: boolean };
  recipe: object;
  state: string;
  error: string | null;
  file: string | null;
  bytes: number | null;
  report: { picture: { sha256: string; pixels: { width: number; height: number } } } | null;
}

const NO_RIGHTS = { title: '', caption: '', creator: '', copyright: '', keywords: [] };

async function adopt(context: Context, old: OldExport): Promise<void> {
  const { quality, longEdge, ppi, keepPosition } = old.settings;
  const deliverable = completeDeliverable({
    name: 'Export',
    quality,
    ppi,
    keepPosition,
    metadata: 'all',
    sharpening: 'none',
    ...(longEdge ? { sizeKind: 'long', width: longEdge } : {})
  });
  const file = old.file ?? `${old.name.replace(/\.[^.]+$/, '')}.jpg`;
  const name = folderName({ id: old.job_id, name: old.job });
  const folder = join(context.deliveries, name);
  const from = join(context.data, 'exports', `${old.id}.jpg`);
  const there = old.state === 'done' && (await stat(from).catch(() => null));
  let placed: string | null = null;
  if (there) {
    await mkdir(folder, { recursive: true });
    placed = (await placeFile(folder, file, 'number'))!;
    await rename(from, pathInFolder(folder, placed));
  }
  const ended = old.state === 'failed' ? 'failed' : 'cancelled';
  const { picture } = old.report ?? { picture: null };
  await context.db.query(
    `with adopted as (delete from exports where id = $1 returning id, created_at, finished_at),
     delivery as (insert into deliveries (id, job_id, created_at, folder) select id, $2, created_at, $18 from adopted
       returning id)
     insert into delivery_items (id, delivery_id, position, frame_id, deliverable, recipe, rights, file, placed, state, progress,
       error, bytes, width, height, quality, encodes, sha256, report, finished_at)
     select gen_random_uuid(), delivery.id, 0, $3, $4, $5, $6, $7, $8, $9, $10, $11, $12, $13, $14, $15, 1, $16, $17, now()
     from delivery`,
    [
      old.id,
      old.job_id,
      old.frame_id,
      deliverable,
      old.recipe,
      NO_RIGHTS,
      file,
      placed,
      there ? 'done' : ended,
      there ? 1 : 0,
      old.error,
      old.bytes,
      picture?.pixels.width ?? null,
      picture?.pixels.height ?? null,
      quality,
      picture?.sha256 ?? null,
      old.report,
      name
    ]
  );
}

export async function adoptExports(context: Context): Promise<void> {
  const { rows } = await context.db.query<OldExport>(
    `select e.id, e.frame_id, f.job_id, j.name as job, f.name, e.settings, e.recipe, e.state, e.error, e.file,
       e.bytes::float8 as bytes, e.report
     from exports e join frames f on f.id = e.frame_id join jobs j on j.id = f.job_id order by e.created_at`
  );
  for (const old of rows) await adopt(context, old);
}

/** Deliveries of earlier versions are told their folders, which were found by the present names of their jobs. */
import type { Context } from '../context.ts';
import { folderName } from './delivery-folder.ts';

export async function nameFolders({ db }: Context): Promise<void> {
  const { rows } = await db.query<{ id: string; name: string }>(
    'select distinct j.id, j.name from deliveries d join jobs j on j.id = d.job_id where d.folder is null'
  );
  for (const job of rows)
    await db.query('update deliveries set folder = $2 where job_id = $1 and folder is null', [
      job.id,
      folderName(job)
    ]);
}

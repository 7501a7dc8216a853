/** The folder of a job's finished pictures, for studios that sync folders. Nothing is written outside it. */
import { stat } from 'node:fs/promises';
import { join, resolve, sep } from 'node:path';
import { nameKey, safeName } from '../../core/picture/output/file-name.ts';
import type { Deliverable } from '../../core/picture/output/deliverable-schema.ts';
import type { Context } from '../context.ts';

/** Name of the folder of a job's deliveries: by what the job is called when the first of them is made. */
export const folderName = (job: { id: string; name: string }): string =>
  `${safeName(job.name)} ${job.id.slice(0, 8)}`;

/** The folder of a delivery, whatever its job is called by now. */
export async function deliveryFolder({ db, deliveries }: Context, deliveryId: string): Promise<string> {
  const { rows } = await db.query<{ folder: string }>('select folder from deliveries where id = $1', [
    deliveryId
  ]);
  return join(deliveries, rows[0].folder);
}

/** Where pictures are written before they are whole: what a crash leaves of one lies in no client's folder. */
export const unfinishedFolder = ({ deliveries }: Pick<Context, 'deliveries'>): string =>
  join(deliveries, '.unfinished');

/** Path of a file in a folder; the name has been made safe, and yet it is checked once more. */
export function pathInFolder(folder: string, file: string): string {
  const path = resolve(folder, file);
  if (!path.startsWith(resolve(folder) + sep)) throw new Error(`${file} would lie outside of ${folder}.`);
  return path;
}

const exists = (path: string): Promise<boolean> =>
  stat(path).then(
    () => true,
    () => false
  );

/** Name that a new file gets, by what is to happen when one is there already; null when it is to be skipped. */
export async function placeFile(
  folder: string,
  file: string,
  existing: Deliverable['existing'],
  reserved: ReadonlySet<string> = new Set()
): Promise<string | null> {
  const taken = async (name: string): Promise<boolean> =>
    reserved.has(nameKey(name)) || (await exists(pathInFolder(folder, name)));
  if (existing === 'replace' || !(await taken(file))) return file;
  if (existing === 'skip') return null;
  const dot = file.lastIndexOf('.');
  for (let n = 2; ; n++) {
    const name = `${file.slice(0, dot)}-${n}${file.slice(dot)}`;
    if (!(await taken(name))) return name;
  }
}

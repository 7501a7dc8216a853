/** Gives back the space of originals that no frame stands on any more, with all that was derived from them. */
import { rm } from 'node:fs/promises';
import { dirname } from 'node:path';
import type { Context } from '../context.ts';
import { derivedPath } from '../frames/derived.ts';
import { originalPath } from './store-original.ts';

/** Removes those of the originals that no frame names; answers how many bytes of originals that gave back. */
export async function removeUnused({ db, data }: Context, sha256s: readonly string[]): Promise<number> {
  // One that came in a moment ago may be about to become a frame.
  const { rows } = await db.query<{ sha256: string; bytes: string }>(
    `delete from originals o where sha256 = any($1) and created_at < clock_timestamp() - interval '2 seconds'
       and not exists (select from frames f where f.sha256 = o.sha256)
     returning sha256, bytes`,
    [sha256s]
  );
  for (const { sha256 } of rows) {
    await rm(originalPath(data, sha256), { force: true });
    await rm(dirname(derivedPath(data, sha256, 'any')), { recursive: true, force: true });
  }
  return rows.reduce((sum, { bytes }) => sum + Number(bytes), 0);
}

/** Gives back the space of originals that no frame stands on any more, with all that was derived from them. */
import { rm } from 'node:fs/promises';
import { dirname } from 'node:path';
import type { Context } from '../context.ts';
import { derivedPath } from './derived.ts';
import { originalPath } from './store-original.ts';
import { withOriginal } from './with-original.ts';

/** A frame that is removed may just be measured: what is written meanwhile goes at the next try. */
const DERIVED = { recursive: true, force: true, maxRetries: 10, retryDelay: 30 };

/** Removes those of the originals that no frame names; answers how many bytes of originals that gave back. */
export async function removeUnused({ db, data }: Context, sha256s: readonly string[]): Promise<number> {
  let freed = 0;
  for (const sha256 of sha256s)
    await withOriginal(db, sha256, async (client) => {
      const { rows } = await client.query<{ bytes: string }>(
        `delete from originals o where sha256 = $1 and not exists (select from frames f where f.sha256 = o.sha256)
         returning bytes`,
        [sha256]
      );
      // One that was kept in a transaction that came to nothing has no row.
      if (
        rows.length === 0 &&
        (await client.query('select from originals where sha256 = $1', [sha256])).rowCount
      )
        return;
      // Before the row is gone for good: whoever adds the file next waits until all of it is.
      await rm(originalPath(data, sha256), { force: true });
      await rm(dirname(derivedPath(data, sha256, 'any')), DERIVED);
      freed += Number(rows[0]?.bytes ?? 0);
    });
  return freed;
}

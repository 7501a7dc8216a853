/**
 * Watches the files that other programs have: what has changed, and is at rest, comes back; also what was changed while Line
 * True was not running. They are looked at again and again, since shares of other machines tell nobody of their changes.
 */
import type { Context } from '../context.ts';
import { pathInFolder } from '../deliveries/delivery-folder.ts';
import { handOverFolder } from './hand-over-folder.ts';
import { seenOf } from './seen.ts';
import { takeBackFile } from './take-back-file.ts';

/** Milliseconds between two looks: a file that looks the same at both is at rest, as is one that is gone at both. */
const LOOK = 1000;

/** Ends with the returned function, once what is being taken back is. */
export function watchHandOvers(context: Context): () => Promise<void> {
  const folder = handOverFolder(context);
  let before = new Map<string, string | null>();
  async function look(): Promise<void> {
    const { rows } = await context.db.query<{ file: string; seen: string | null }>(
      `select file, seen from hand_overs where state = 'out'`
    );
    const now = new Map<string, string | null>();
    for (const { file, seen } of rows) {
      const found = await seenOf(pathInFolder(folder, file));
      if (found === seen) continue;
      if (before.has(file) && before.get(file) === found) await takeBackFile(context, file);
      else now.set(file, found);
    }
    before = now;
  }
  let ended = false;
  let timer: NodeJS.Timeout;
  let looking: Promise<void> = Promise.resolve();
  const again = (): void => {
    looking = look()
      // The database may be away.
      .catch((error: Error) => console.error('hand-over:', error.message))
      .finally(() => {
        if (!ended) timer = setTimeout(again, LOOK);
      });
  };
  again();
  return async () => {
    ended = true;
    clearTimeout(timer);
    await looking;
  };
}

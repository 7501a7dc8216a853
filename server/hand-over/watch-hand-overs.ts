/** Watches the folder of hand-overs, for files that another program has changed: also those changed while Line True was not running. */
import { mkdir } from 'node:fs/promises';
import { relative, sep } from 'node:path';
import { watch } from 'chokidar';
import pLimit from 'p-limit';
import type { Context } from '../context.ts';
import { handOverFolder, isHandedFile, unfinishedHandOvers } from './hand-over-folder.ts';
import { takeBackFile } from './take-back-file.ts';

/** A file is whole once it has not grown for this long, in milliseconds, looked at this often. */
const AT_REST = { stabilityThreshold: 800, pollInterval: 200 };
/** Programs that save by writing anew take the old file away first. */
const MAY_COME_AGAIN = 1500;

/** Ends with the returned function, once what is being taken back is. */
export async function watchHandOvers(context: Context): Promise<() => Promise<void>> {
  const folder = handOverFolder(context);
  await mkdir(folder, { recursive: true });
  const unfinished = unfinishedHandOvers(context);
  // One file after another: each is read as a whole.
  const oneAtATime = pLimit(1);
  const look = (path: string): Promise<void> =>
    oneAtATime(() => takeBackFile(context, relative(folder, path).split(sep).join('/'))).catch(
      (error: Error) => console.error('hand-over:', error.message)
    );
  const leaving = new Set<NodeJS.Timeout>();
  const watcher = watch(folder, {
    awaitWriteFinish: AT_REST,
    ignored: (path, stats) => path === unfinished || (stats?.isFile() === true && !isHandedFile(path))
  });
  watcher.on('add', look).on('change', look);
  watcher.on('unlink', (path) => {
    const timer = setTimeout(() => {
      leaving.delete(timer);
      void look(path);
    }, MAY_COME_AGAIN);
    leaving.add(timer);
  });
  watcher.on('error', (error) => console.error('hand-over folder:', (error as Error).message));
  await new Promise<void>((ready) => watcher.once('ready', () => ready()));
  // What is gone since is seen by nobody.
  const { rows } = await context.db.query<{ file: string }>(
    `select file from hand_overs where state = 'out' and error is null`
  );
  for (const { file } of rows) void look(`${folder}/${file}`);
  return async () => {
    for (const timer of leaving) clearTimeout(timer);
    await watcher.close();
    await oneAtATime(() => {});
  };
}

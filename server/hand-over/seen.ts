import { stat } from 'node:fs/promises';

/** How a file looks from outside; null where it is gone. A file that looks the same is not read again. */
export async function seenOf(path: string): Promise<string | null> {
  const found = await stat(path).catch(() => null);
  return found && `${found.size} ${Math.round(found.mtimeMs)} ${found.ino}`;
}

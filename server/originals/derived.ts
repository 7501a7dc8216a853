/** Files derived from originals: made anew whenever they are missing. */
import { stat } from 'node:fs/promises';
import { join } from 'node:path';

export function derivedPath(data: string, sha256: string, file: string): string {
  return join(data, 'derived', sha256.slice(0, 2), sha256, file);
}

/** Tells one making of a derived file from another: its name stays when it is made anew. */
export async function madeTag(path: string): Promise<string> {
  const { mtimeMs, size, ino } = await stat(path);
  return [mtimeMs, size, ino].map((value) => Math.round(value).toString(36)).join('-');
}

/** Files derived from originals: made anew whenever they are missing. */
import { join } from 'node:path';

export function derivedPath(data: string, sha256: string, file: string): string {
  return join(data, 'derived', sha256.slice(0, 2), sha256, file);
}

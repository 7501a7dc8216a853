/** Files derived from originals: made anew whenever they are missing. */
import { stat } from 'node:fs/promises';
import { join } from 'node:path';
import type { FrameFacts } from '../../core/optics/frame-facts.ts';

export function derivedPath(data: string, sha256: string, file: string): string {
  return join(data, 'derived', sha256.slice(0, 2), sha256, file);
}

/** The name of what is made of a file's pixels: frames that were added earlier have finished pictures cut to sRGB. */
export const ofPixels = (file: string, facts: Pick<FrameFacts, 'ownColours'>): string =>
  facts.ownColours ? `own-colours-${file}` : file;

/** Tells one making of a derived file from another: its name stays when it is made anew. */
export async function madeTag(path: string): Promise<string> {
  const { mtimeMs, size, ino } = await stat(path);
  // Whole seconds: finer ones are lost when the time of a file is set again. The new file is another one on the disk.
  return [mtimeMs / 1000, size, ino].map((value) => Math.floor(value).toString(36)).join('-');
}

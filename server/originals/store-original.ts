import { createHash } from 'node:crypto';
import { mkdir, open, readdir, rename, rm, stat } from 'node:fs/promises';
import { dirname, join } from 'node:path';
import type { FrameFacts } from '../../core/optics/frame-facts.ts';
import { MOST_BYTES, fileKind } from '../decode/decode-file.ts';
import { UserError } from '../user-error.ts';
import type { Original } from '../render/read-original.ts';
import { diskError, syncFolder, temporaryName } from './write-whole.ts';

export function originalPath(data: string, sha256: string): string {
  return join(data, 'originals', sha256.slice(0, 2), sha256);
}

/** Where a frame's original stands, what it is called, and what it has to be. */
export const originalOf = (
  data: string,
  { sha256, name, facts }: { sha256: string; name: string; facts: FrameFacts | null }
): Required<Original> => ({
  path: originalPath(data, sha256),
  name,
  sha256,
  asSrgb: facts?.rendering === 'display' && !facts.ownColours
});

export interface StoredOriginal {
  sha256: string;
  bytes: number;
}

/** Bytes from the head of a file that tell what it is. */
const HEAD = 4096;

async function exists(path: string): Promise<boolean> {
  return stat(path).then(
    () => true,
    () => false
  );
}

/** A file that has come in whole, and is synced, but has no final name yet. */
export interface ReceivedFile extends StoredOriginal {
  temporary: string;
}

/** Takes a file in under a temporary name. Refuses what is plainly no picture before it is kept. */
export async function receiveFile(
  data: string,
  name: string,
  body: AsyncIterable<Uint8Array>,
  expectedBytes: number | null = null
): Promise<ReceivedFile> {
  const incoming = incomingFolder(data);
  await mkdir(incoming, { recursive: true });
  const temporary = temporaryName(join(incoming, 'file'));
  const hash = createHash('sha256');
  let bytes = 0;
  let head: Uint8Array = new Uint8Array(0);
  try {
    const file = await open(temporary, 'wx');
    try {
      for await (const chunk of body) {
        bytes += chunk.length;
        if (bytes > MOST_BYTES) {
          throw new UserError('This file is larger than 512 MB, the most that can be opened.');
        }
        if (head.length < HEAD) head = Buffer.concat([head, chunk.subarray(0, HEAD - head.length)]);
        hash.update(chunk);
        // A plain write may store a part only; this one goes on until all is stored or the disk is full.
        await file.appendFile(chunk);
      }
      if (expectedBytes !== null && bytes !== expectedBytes) {
        throw new UserError('The file arrived cut short. Add it again.');
      }
      fileKind(head, name);
      await file.sync();
    } finally {
      await file.close();
    }
    return { sha256: hash.digest('hex'), bytes, temporary };
  } catch (error) {
    await rm(temporary, { force: true });
    throw diskError(error);
  }
}

/**
 * Keeps a received file under its SHA-256: a half-written original never has a final name. For whoever holds the lock of its
 * hash (`withOriginal`).
 */
export async function keepOriginal(data: string, { sha256, temporary }: ReceivedFile): Promise<void> {
  const path = originalPath(data, sha256);
  if (await exists(path)) return rm(temporary);
  await mkdir(dirname(path), { recursive: true });
  await rename(temporary, path);
  await syncFolder(dirname(path));
}

/** A file that has not grown for this long, in milliseconds, is no longer arriving. */
const ABANDONED = 60 * 60 * 1000;

/** Where files are while they come in. */
export const incomingFolder = (data: string): string => join(data, 'incoming');

/** Removes what was left in a folder of half-written files by what a crash broke off. */
export async function removeAbandoned(folder: string, olderThan = ABANDONED): Promise<void> {
  for (const name of await readdir(folder).catch(() => [])) {
    const path = join(folder, name);
    const { mtimeMs } = await stat(path);
    if (Date.now() - mtimeMs > olderThan) await rm(path, { force: true });
  }
}

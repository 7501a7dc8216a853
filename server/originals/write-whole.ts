/** Writing files that are either whole or not there: temporary name, sync, rename. */
import { mkdir, open, rename, rm } from 'node:fs/promises';
import { dirname } from 'node:path';
import { UserError } from '../decode/user-error.ts';

let counter = 0;

/** A name beside the final one, on the same file system, that no other process uses. */
export function temporaryName(path: string): string {
  return `${path}.${process.pid}-${++counter}.part`;
}

/** Turns the errors of a full or unwritable disk into words; anything else stays as it is. */
export function diskError(error: unknown): unknown {
  const code = (error as NodeJS.ErrnoException).code;
  if (code === 'ENOSPC' || code === 'EDQUOT') {
    return new UserError(
      'The disk is full: the file was not stored. Make room and add it again; nothing else was changed.'
    );
  }
  if (code === 'EACCES' || code === 'EROFS') {
    return new UserError(
      'The data folder cannot be written to. Check its permissions and add the file again.'
    );
  }
  return error;
}

export async function writeWhole(path: string, content: Uint8Array | string): Promise<void> {
  await mkdir(dirname(path), { recursive: true });
  const temporary = temporaryName(path);
  try {
    const file = await open(temporary, 'wx');
    try {
      await file.writeFile(content);
      await file.sync();
    } finally {
      await file.close();
    }
    await rename(temporary, path);
  } catch (error) {
    await rm(temporary, { force: true });
    throw diskError(error);
  }
}

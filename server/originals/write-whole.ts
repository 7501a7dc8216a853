/** Writing files that are either whole or not there: temporary name, sync, rename. */
import { mkdir, open, readdir, rename, rm } from 'node:fs/promises';
import { basename, dirname, join } from 'node:path';
import { UserError } from '../user-error.ts';

let counter = 0;

/** A name beside the final one, on the same file system, that no other process uses. */
export function temporaryName(path: string): string {
  return `${path}.${process.pid}-${++counter}.part`;
}

/** Makes sure that the names in a folder outlast a crash. */
export async function syncFolder(path: string): Promise<void> {
  const folder = await open(path, 'r');
  try {
    await folder.sync();
  } finally {
    await folder.close();
  }
}

/** Turns the errors of a full or unwritable disk into words; anything else stays as it is. */
export function diskError(error: unknown): unknown {
  const code = (error as NodeJS.ErrnoException).code;
  if (code === 'ENOSPC' || code === 'EDQUOT') {
    return new UserError(
      'The disk is full: the file was not stored. Make room and try it again; nothing else was changed.'
    );
  }
  if (code === 'EACCES' || code === 'EROFS') {
    return new UserError('The folder cannot be written to. Check its permissions and try it again.');
  }
  return error;
}

/** Removes what was left beside a file when its writing was broken off by the end of the process. */
export async function removeHalfWritten(path: string): Promise<void> {
  const names = await readdir(dirname(path)).catch(() => []);
  for (const name of names)
    if (name.startsWith(`${basename(path)}.`) && name.endsWith('.part'))
      await rm(join(dirname(path), name), { force: true });
}

/**
 * `beside`: a folder for what is not whole yet (default: that of the file). Where it turns out to be of another file system,
 * the file's own is taken.
 */
export async function writeWhole(
  path: string,
  content: Uint8Array | string,
  beside = dirname(path)
): Promise<void> {
  const temporary = temporaryName(join(beside, basename(path)));
  try {
    await mkdir(dirname(path), { recursive: true });
    await mkdir(beside, { recursive: true });
    const file = await open(temporary, 'wx');
    try {
      await file.writeFile(content);
      await file.sync();
    } finally {
      await file.close();
    }
    await rename(temporary, path);
    await syncFolder(dirname(path));
  } catch (error) {
    await rm(temporary, { force: true });
    if ((error as NodeJS.ErrnoException).code === 'EXDEV') return writeWhole(path, content);
    throw diskError(error);
  }
}

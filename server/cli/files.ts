/** Reading and writing files of a call, with errors in words. */
import { readFile, rename, rm, writeFile } from 'node:fs/promises';
import { UserError } from '../user-error.ts';

/** The call itself is wrong. */
export class UsageError extends Error {}
/** The result cannot be written. */
export class WriteError extends Error {}

export async function readInput(path: string): Promise<Buffer> {
  try {
    return await readFile(path);
  } catch (error) {
    const { code } = error as NodeJS.ErrnoException;
    throw new UserError(
      code === 'ENOENT' ? `There is no file ${path}.` : `${path} cannot be read (${code}).`
    );
  }
}

export async function readJson(path: string): Promise<unknown> {
  const text = (await readInput(path)).toString('utf8');
  try {
    return JSON.parse(text);
  } catch (error) {
    throw new UserError(`${path} is not JSON: ${(error as Error).message}.`);
  }
}

/** Writes whole files only: a name is either the finished file or what it was before. */
export async function writeOutput(path: string, content: Uint8Array | string): Promise<void> {
  const temporary = `${path}.${process.pid}.part`;
  try {
    await writeFile(temporary, content);
    await rename(temporary, path);
  } catch (error) {
    await rm(temporary, { force: true });
    throw new WriteError(`${path} cannot be written (${(error as NodeJS.ErrnoException).code}).`);
  }
}

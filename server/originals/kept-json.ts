/** What was found out about a file, kept as JSON beside what else is derived from it. */
import { readFile } from 'node:fs/promises';
import type { Context } from '../context.ts';
import { derivedPath } from './derived.ts';
import { writeWhole } from './write-whole.ts';

type Kept = Pick<Context, 'data'>;

export const keepJson = ({ data }: Kept, sha256: string, file: string, value: unknown): Promise<void> =>
  writeWhole(derivedPath(data, sha256, file), JSON.stringify(value));

/** Null where it was not kept yet, or cannot be read any more: it is found out again. */
export async function keptJson<T>({ data }: Kept, sha256: string, file: string): Promise<T | null> {
  try {
    return JSON.parse(await readFile(derivedPath(data, sha256, file), 'utf8')) as T;
  } catch {
    return null;
  }
}

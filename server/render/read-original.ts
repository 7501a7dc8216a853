/** Reads a stored original, and sees to it that it is still what was stored. */
import type { DecodeOptions, Decoded } from '../decode/decode-file.ts';
import { giveBack } from '../../core/picture/kernels/heap.ts';
import type { ReadOptions } from '../decode/reader.ts';
import { UserError } from '../user-error.ts';
import { dataOf } from './linear-source.ts';
import type { Pool } from './pool.ts';

export interface Original extends DecodeOptions {
  path: string;
  /** The file's name as the user knows it. */
  name: string;
  /** What its SHA-256 has to be, where it is known. */
  sha256?: string;
}

/** The decoded file, whose memory is the caller's to give back, and its SHA-256. Throws a UserError when it has changed. */
export async function readOriginal(
  pool: Pool,
  { path, name, sha256: expected, asSrgb }: Original,
  options: ReadOptions = {}
): Promise<{ decoded: Decoded; sha256: string }> {
  const { decoded, sha256 } = await pool.read(path, name, { ...options, asSrgb });
  if (!expected || sha256 === expected) return { decoded, sha256 };
  giveBack(dataOf(decoded));
  throw new UserError(
    `The stored original of ${name} is no longer what was added: its SHA-256 differs. Take it from a backup, or add the file again.`
  );
}

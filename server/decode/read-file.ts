/** What a reader process does: a file from its path to its facts and pixels, with its SHA-256. */
import { createHash } from 'node:crypto';
import { readFile, writeFile } from 'node:fs/promises';
import { fitLateral } from '../../core/lateral/fit-lateral.ts';
import { mosaicSource } from '../../core/lateral/colour-source.ts';
import { measureEdges } from '../../core/lateral/measure-edges.ts';
import { halfDiagonal } from '../../core/math/frame-geometry.ts';
import { bytesOf } from '../bytes-of.ts';
import { type Decoded, decodeFile } from './decode-file.ts';
import { UserError } from './user-error.ts';

export interface ReadTask {
  path: string;
  /** The file's name as the user knows it. */
  name: string;
  /** File that the pixels are written to: they do not fit through a pipe in good time. */
  pixels: string;
}

export type ReadAnswer = { refused: string } | { decoded: Decoded; values: number; sha256: string };

/** The pixels' numbers are in the file; `decoded` comes without them. */
export async function readTask({ path, name, pixels }: ReadTask): Promise<ReadAnswer> {
  try {
    const bytes = await readFile(path);
    const sha256 = createHash('sha256').update(bytes).digest('hex');
    const decoded = await decodeFile(bytes, name);
    if (decoded.kind === 'mosaic') {
      decoded.edges = measureEdges(mosaicSource(decoded.mosaic));
      // Demosaicing needs to know where the lens lays red and blue, as far as the mosaic itself shows it.
      const fit = fitLateral(decoded.edges, halfDiagonal(decoded.facts.size));
      decoded.mosaic.lateral = fit.ok ? fit.lateral : null;
    }
    const held = decoded.kind === 'mosaic' ? decoded.mosaic : decoded;
    const { data } = held;
    await writeFile(pixels, bytesOf(data));
    held.data = new Uint16Array(0);
    return { decoded, values: data.length, sha256 };
  } catch (error) {
    if (error instanceof UserError) return { refused: error.message };
    throw error;
  }
}

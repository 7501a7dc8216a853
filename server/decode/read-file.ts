/** What a reader process does: a file from its path to its facts and pixels, with its SHA-256. */
import { webcrypto } from 'node:crypto';
import { readFile, writeFile } from 'node:fs/promises';
import { lateralFrom } from '../../core/measure/lateral/fit-lateral.ts';
import { mosaicSource } from '../../core/measure/lateral/colour-source.ts';
import { measureEdges } from '../../core/measure/lateral/measure-edges.ts';
import { halfDiagonal } from '../../core/math/frame-geometry.ts';
import { bytesOf } from '../bytes-of.ts';
import { type DecodeOptions, type Decoded, decodeFile } from './decode-file.ts';
import { embeddedPicture } from './embedded-picture.ts';
import { UserError } from '../user-error.ts';

export interface ReadTask extends DecodeOptions {
  path: string;
  /** The file's name as the user knows it. */
  name: string;
  /**
   * Measure the mosaic's edges, which its demosaicing needs to know (default), or only of mosaics up to a longest edge in
   * pixels; else they are known, or not needed.
   */
  edges?: boolean | number;
  /** File that the pixels are written to: they do not fit through a pipe in good time. */
  pixels: string;
}

export interface PictureTask {
  path: string;
  name: string;
  /** Only the small picture that comes along is wanted. */
  picture: true;
}

export interface PictureAnswer {
  jpeg: Uint8Array | null;
}

export type ReadAnswer = { refused: string } | { decoded: Decoded; values: number; sha256: string };

export async function pictureTask({ path, name }: PictureTask): Promise<PictureAnswer> {
  try {
    return { jpeg: await embeddedPicture(await readFile(path), name) };
  } catch {
    // Whatever is wrong with the file is said when it is prepared.
    return { jpeg: null };
  }
}

/** The pixels' numbers are in the file; `decoded` comes without them. */
export async function readTask({ path, name, edges = true, pixels, asSrgb }: ReadTask): Promise<ReadAnswer> {
  try {
    const bytes = await readFile(path);
    // In a thread of its own while the file is decoded.
    const hash = webcrypto.subtle.digest('SHA-256', bytes);
    const decoded = await decodeFile(bytes, name, { asSrgb });
    const { width, height } = decoded.facts.size;
    const wanted = typeof edges === 'number' ? Math.max(width, height) <= edges : edges;
    if (decoded.kind === 'mosaic' && wanted) {
      decoded.edges = measureEdges(mosaicSource(decoded.mosaic));
      // Demosaicing needs to know where the lens lays red and blue, as far as the mosaic itself shows it.
      decoded.mosaic.lateral = lateralFrom(decoded.edges, halfDiagonal(decoded.facts.size));
    }
    const held = decoded.kind === 'mosaic' ? decoded.mosaic : decoded;
    const { data } = held;
    await writeFile(pixels, bytesOf(data));
    held.data = new Uint16Array(0);
    return { decoded, values: data.length, sha256: Buffer.from(await hash).toString('hex') };
  } catch (error) {
    if (error instanceof UserError) return { refused: error.message };
    throw error;
  }
}

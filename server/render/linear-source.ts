/** A file decoded and developed to full-size linear planes in shared memory. */
import type { LateralEdge } from '../../core/measure/lateral/measure-edges.ts';
import { emptyHalf } from '../../core/picture/tile/halve.ts';
import type { FrameSize } from '../../core/math/frame-geometry.ts';
import {
  type PlacedPlanes,
  type Planes,
  placeOn,
  givePlanesBack,
  takePlanes
} from '../../core/picture/tile/planes.ts';
import { levelFor } from '../../core/render/levels.ts';
import type { DevelopOptions } from '../../core/picture/raw/develop.ts';
import { orientedSize } from '../../core/picture/raw/mosaic.ts';
import type { Decoded } from '../decode/decode-file.ts';
import type { FrameFacts } from '../../core/optics/frame-facts.ts';
import { giveBack } from '../../core/picture/kernels/heap.ts';
import { filled } from '../../core/picture/kernels/scope.ts';
import type { SourceInputs } from '../../core/render/source-planes.ts';
import { sayingMemory } from './memory-words.ts';
import { shareInputs } from './shared-inputs.ts';
import { type Pool, inBands } from './pool.ts';

export interface LinearSource {
  facts: FrameFacts;
  planes: PlacedPlanes;
}

const BAND = 256;
/** The same of a stage that reads rows beyond its own, which bands work on twice. */
const CHANGED_BAND = 512;

export interface WorkOptions {
  signal?: AbortSignal;
  /** Share done, 0..1. */
  onProgress?: (share: number) => void;
}

/** Planes of stored or read codes, in memory that is the caller's to give back. */
export async function planesOfCodes(
  codes: Uint16Array,
  encoding: 'linear' | 'srgb' | 'stored',
  { width, height }: FrameSize,
  pool: Pool,
  { signal, onProgress }: WorkOptions = {}
): Promise<Planes> {
  return filled(takePlanes(width, height), (planes) =>
    inBands(
      height,
      BAND,
      signal,
      (from, to) => pool.run({ codes, encoding, planes, from, to }, { name: 'fill', signal }),
      onProgress
    )
  );
}

/** Edges of a linear picture with the offsets of red and blue. */
export async function edgesInPool(
  planes: PlacedPlanes,
  pool: Pool,
  { signal }: WorkOptions = {}
): Promise<LateralEdge[]> {
  return (await pool.run({ planes }, { name: 'edges', signal })) as LateralEdge[];
}

/** The numbers of a decoded file. */
export const dataOf = (decoded: Decoded): Uint16Array =>
  decoded.kind === 'mosaic' ? decoded.mosaic.data : decoded.data;

/** Linear planes of a decoded file, whose own memory is given back whatever comes. The planes are the caller's to give back. */
export async function developInPool(
  decoded: Decoded,
  pool: Pool,
  { clip = false, ...options }: WorkOptions & DevelopOptions = {}
): Promise<LinearSource> {
  const { facts } = decoded;
  try {
    return await sayingMemory(facts.size, () => developed(decoded, pool, { clip, ...options }));
  } finally {
    giveBack(dataOf(decoded));
  }
}

async function developed(
  decoded: Decoded,
  pool: Pool,
  { clip, ...options }: WorkOptions & DevelopOptions
): Promise<LinearSource> {
  const { facts } = decoded;
  if (decoded.kind === 'codes') {
    const planes = await planesOfCodes(decoded.data, decoded.encoding, facts.size, pool, options);
    return { facts, planes: placeOn(planes, facts.size) };
  }
  const { mosaic } = decoded;
  const { width, height } = orientedSize(mosaic);
  const planes = await filled(takePlanes(width, height), (planes) =>
    inBands(
      mosaic.height,
      BAND,
      options.signal,
      (from, to) => pool.run({ mosaic, planes, from, to, clip }, { name: 'develop', signal: options.signal }),
      options.onProgress
    )
  );
  return { facts, planes: placeOn(planes, facts.size) };
}

/** What source stages make of a developed picture, which is given back where there is anything to do. */
export async function changeInPool(
  planes: PlacedPlanes,
  inputs: SourceInputs,
  pool: Pool,
  { signal }: WorkOptions = {}
): Promise<PlacedPlanes> {
  let current = planes;
  try {
    for (const each of inputs) {
      const [source, stage] = [current, shareInputs(each)];
      const out = { ...source, ...takePlanes(source.width, source.height) };
      current = await filled(out, () =>
        inBands(out.height, CHANGED_BAND, signal, (from, to) =>
          pool.run({ source, out, stage, from, to }, { name: 'change', signal })
        )
      );
      givePlanesBack(source);
    }
    return current;
  } catch (error) {
    givePlanesBack(current);
    throw error;
  }
}

/** A picture and its successive halves, each made when it is first asked for. */
export interface Halves {
  /** The last half that still has a pixel for every output pixel, where `reduction` source pixels make one. */
  halfFor(reduction: number, signal?: AbortSignal): Promise<PlacedPlanes>;
  /** Gives back the memory of the halves; the picture itself stays. No half may be in the making. */
  close(): void;
}

export function halvesOf(source: PlacedPlanes, pool: Pool): Halves {
  const levels: Promise<PlacedPlanes>[] = [Promise.resolve(source)];
  const lent: Planes[] = [];
  async function half(of: Promise<PlacedPlanes>): Promise<PlacedPlanes> {
    const source = await of;
    const out = emptyHalf(source);
    lent.push(out);
    await inBands(out.height, BAND, undefined, (from, to) =>
      pool.run({ source, out, from, to }, { name: 'reduce' })
    );
    return out;
  }
  return {
    async halfFor(reduction, signal) {
      const level = levelFor(reduction);
      while (levels.length <= level) levels.push(half(levels[levels.length - 1]));
      const found = await levels[level];
      signal?.throwIfAborted();
      return found;
    },
    close() {
      lent.forEach(givePlanesBack);
    }
  };
}

/** A file decoded and developed to full-size linear planes in shared memory. */
import type { LateralEdge } from '../../core/lateral/measure-edges.ts';
import { halfSize } from '../../core/tile/halve.ts';
import type { PlacedPlanes, Planes } from '../../core/tile/planes.ts';
import { levelFor } from '../../core/render/levels.ts';
import { orientedSize } from '../../core/raw/mosaic.ts';
import type { Decoded } from '../decode/decode-file.ts';
import type { FrameFacts } from '../../core/camera/frame-facts.ts';
import { UserError } from '../decode/user-error.ts';
import { giveBack, giveBackPlanes, lentPlanes, lentUint16 } from './lent-memory.ts';
import { type Pool, inBands } from './pool.ts';
import type { Refusal } from './worker.ts';

export interface LinearSource {
  facts: FrameFacts;
  planes: PlacedPlanes;
}

const BAND = 256;

export interface WorkOptions {
  signal?: AbortSignal;
  /** Share done, 0..1. */
  onProgress?: (share: number) => void;
}

export async function decodeInPool(
  path: string,
  name: string,
  pool: Pool,
  { signal }: WorkOptions = {}
): Promise<Decoded> {
  const decoded = (await pool.run({ path, name }, { name: 'decode', signal })) as Decoded | Refusal;
  if ('refused' in decoded) throw new UserError(decoded.refused);
  if (decoded.kind === 'mosaic') {
    // It came as a copy; every thread is to see it.
    const { mosaic } = decoded;
    const data = lentUint16(mosaic.data.length);
    data.set(mosaic.data);
    mosaic.data = data;
  }
  return decoded;
}

/** Edges of a linear picture with the offsets of red and blue. */
export async function edgesInPool(
  planes: PlacedPlanes,
  pool: Pool,
  { signal }: WorkOptions = {}
): Promise<LateralEdge[]> {
  return (await pool.run({ planes }, { name: 'edges', signal })) as LateralEdge[];
}

/** Linear planes of a decoded file, whose own memory is given back. The planes are the caller's to give back. */
export async function developInPool(
  decoded: Decoded,
  pool: Pool,
  options: WorkOptions = {}
): Promise<LinearSource> {
  const { facts } = decoded;
  const placed = { originX: 0, originY: 0, scaleX: 1, scaleY: 1 };
  if (decoded.kind === 'planes') return { facts, planes: { ...decoded.planes, ...placed } };
  const { mosaic } = decoded;
  const { width, height } = orientedSize(mosaic);
  const planes = lentPlanes(width, height);
  await inBands(
    mosaic.height,
    BAND,
    options.signal,
    (from, to) => pool.run({ mosaic, planes, from, to }, { name: 'develop', signal: options.signal }),
    options.onProgress
  );
  giveBack(mosaic.data);
  return { facts, planes: { ...planes, ...placed } };
}

/** A picture and its successive halves, each made when it is first asked for. */
export interface Halves {
  /** The last half that still has a pixel for every output pixel, where `reduction` source pixels make one. */
  halfFor(reduction: number, signal?: AbortSignal): Promise<PlacedPlanes>;
  /** Gives back the memory of the halves; the picture itself stays. */
  close(): void;
}

export function halvesOf(source: PlacedPlanes, pool: Pool): Halves {
  const levels: Promise<PlacedPlanes>[] = [Promise.resolve(source)];
  const lent: Planes[] = [];
  async function half(of: Promise<PlacedPlanes>): Promise<PlacedPlanes> {
    const larger = await of;
    const { width, height } = halfSize(larger);
    const out = lentPlanes(width, height);
    lent.push(out);
    await pool.run({ source: larger, out }, { name: 'reduce' });
    const { originX, originY, scaleX, scaleY } = larger;
    return { ...out, originX, originY, scaleX: scaleX / 2, scaleY: scaleY / 2 };
  }
  return {
    async halfFor(reduction, signal) {
      const level = levelFor(reduction);
      while (levels.length <= level) levels.push(half(levels[levels.length - 1]));
      const found = await levels[level];
      signal?.throwIfAborted();
      return found;
    },
    close: () => lent.forEach(giveBackPlanes)
  };
}

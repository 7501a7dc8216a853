/** A file decoded and developed to full-size linear planes in shared memory. */
import type { LateralEdge } from '../../core/lateral/measure-edges.ts';
import { type PlacedPlanes, allocatePlanes } from '../../core/pipeline/planes.ts';
import { orientedSize } from '../../core/raw/mosaic.ts';
import type { Decoded } from '../decode/decode-file.ts';
import type { FrameFacts } from '../../core/camera/frame-facts.ts';
import { UserError } from '../decode/user-error.ts';
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

/** Linear planes of a decoded file. */
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
  const planes = allocatePlanes(width, height, true);
  await inBands(
    mosaic.height,
    BAND,
    options.signal,
    (from, to) => pool.run({ mosaic, planes, from, to }, { name: 'develop', signal: options.signal }),
    options.onProgress
  );
  return { facts, planes: { ...planes, ...placed } };
}

/** Reduces by halves until the next would be smaller than needed: `reduction` source pixels make one output pixel. */
export async function halvedFor(
  source: PlacedPlanes,
  reduction: number,
  pool: Pool,
  signal?: AbortSignal
): Promise<PlacedPlanes> {
  let current = source;
  for (let left = reduction; left >= 2; left /= 2) {
    current = (await pool.run({ source: current }, { name: 'reduce', signal })) as PlacedPlanes;
  }
  return current;
}

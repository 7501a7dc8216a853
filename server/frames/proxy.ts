/** The proxy: the whole frame, reduced, as stored codes; what the bench and small pictures are made from. */
import { readFile } from 'node:fs/promises';
import { NO_DISTORTION } from '../../core/lens/lens-model.ts';
import { type FrameSize, halfDiagonal } from '../../core/math/frame-geometry.ts';
import { IDENTITY } from '../../core/math/matrix3.ts';
import type { Projection } from '../../core/geometry/projection.ts';
import type { View } from '../../core/tile/mesh.ts';
import { type PlacedPlanes, placeOn } from '../../core/tile/planes.ts';
import type { Context } from '../context.ts';
import { writeWhole } from '../originals/write-whole.ts';
import { giveBack, lentUint16 } from '../render/lent-memory.ts';
import { halvesOf, planesOfCodes } from '../render/linear-source.ts';
import { type Pool, inBands } from '../render/pool.ts';
import { bytesOf } from '../bytes-of.ts';
import { derivedPath } from './derived.ts';
import type { FrameRow } from './frame-row.ts';

/** Longest edge of the proxy in pixels. */
const PROXY_EDGE = 2048;

export const proxyPath = (data: string, sha256: string): string =>
  // Its name changes with the codes that it holds.
  derivedPath(data, sha256, 'proxy-root.bin');

function proxySize({ width, height }: FrameSize): FrameSize {
  const scale = Math.min(1, PROXY_EDGE / Math.max(width, height));
  return { width: Math.max(1, Math.round(width * scale)), height: Math.max(1, Math.round(height * scale)) };
}

/** Stored codes of a whole frame at a size; their memory is the caller's to give back. */
async function storedAt(planes: PlacedPlanes, size: FrameSize, pool: Pool): Promise<Uint16Array> {
  const full: FrameSize = { width: planes.width, height: planes.height };
  const unit = halfDiagonal(full);
  const projection: Projection = { size: full, focal: 1, model: NO_DISTORTION, rotation: IDENTITY };
  const pixel = full.width / unit / size.width;
  const view: View = { left: -full.width / unit / 2, top: -full.height / unit / 2, pixel, ...size };
  const halves = halvesOf(planes, pool);
  const source = await halves.halfFor(full.width / size.width);
  const out = lentUint16(size.width * size.height * 3);
  await inBands(size.height, 256, undefined, (from, to) =>
    pool.run({ source, projection, view, from, to, out }, { name: 'reduceStored' })
  );
  halves.close();
  return out;
}

export interface Proxy {
  codes: Uint16Array;
  size: FrameSize;
}

/** Makes and keeps the proxy of developed planes; the memory of its codes is the caller's to give back. */
export async function makeProxy(context: Context, sha256: string, planes: PlacedPlanes): Promise<Proxy> {
  const size = proxySize(planes);
  const codes = await storedAt(planes, size, context.pool);
  await writeWhole(proxyPath(context.data, sha256), bytesOf(codes));
  return { codes, size };
}

/** A proxy as planes placed on a sensor of a size; their memory is the caller's to give back. */
export async function proxyPlanes(
  { codes, size }: Proxy,
  full: FrameSize,
  pool: Pool
): Promise<PlacedPlanes> {
  return placeOn(await planesOfCodes(codes, 'stored', size, pool), full);
}

/** The stored proxy as planes placed on the sensor; their memory is the caller's to give back. */
export async function readProxy(context: Context, frame: FrameRow): Promise<PlacedPlanes> {
  if (!frame.proxy || !frame.facts) throw new Error(`Frame ${frame.id} has no proxy.`);
  const bytes = await readFile(proxyPath(context.data, frame.sha256));
  const codes = lentUint16(bytes.length / 2);
  codes.set(new Uint16Array(bytes.buffer, bytes.byteOffset, codes.length));
  const planes = await proxyPlanes({ codes, size: frame.proxy }, frame.facts.size, context.pool);
  giveBack(codes);
  return planes;
}

/** The proxy: the whole frame, reduced, as stored codes; what the bench and small pictures are made from. */
import { readFile } from 'node:fs/promises';
import { NO_DISTORTION } from '../../core/optics/lens-model.ts';
import type { FrameFacts } from '../../core/optics/frame-facts.ts';
import { type FrameSize, halfDiagonal } from '../../core/math/frame-geometry.ts';
import { IDENTITY } from '../../core/math/matrix3.ts';
import type { Projection } from '../../core/picture/geometry/projection.ts';
import type { View } from '../../core/picture/tile/mesh.ts';
import { type PlacedPlanes, placeOn } from '../../core/picture/tile/planes.ts';
import { giveLatticesBack, takeLattices } from '../../core/picture/raw/lattices.ts';
import type { Mosaic } from '../../core/picture/raw/mosaic.ts';
import type { Context } from '../context.ts';
import type { Decoded } from '../decode/decode-file.ts';
import { writeWhole } from '../originals/write-whole.ts';
import { takeUint16 } from '../../core/picture/kernels/heap.ts';
import { filled, inScope } from '../../core/picture/kernels/scope.ts';
import { developInPool, halvesOf, planesOfCodes } from '../render/linear-source.ts';
import { type Pool, inBands } from '../render/pool.ts';
import { bytesOf } from '../bytes-of.ts';
import { derivedPath, ofPixels } from '../originals/derived.ts';
import type { FrameRow } from './frame-row.ts';

/** Longest edge of the proxy in pixels. */
const PROXY_EDGE = 2048;

/** Rows that a thread does at a time. */
const BAND = 256;

export const proxyPath = (data: string, sha256: string, facts: Pick<FrameFacts, 'ownColours'>): string =>
  // Its name changes with the codes that it holds.
  derivedPath(data, sha256, ofPixels('proxy-root.bin', facts));

function proxySize({ width, height }: FrameSize): FrameSize {
  const scale = Math.min(1, PROXY_EDGE / Math.max(width, height));
  return { width: Math.max(1, Math.round(width * scale)), height: Math.max(1, Math.round(height * scale)) };
}

/** The whole frame as a view of a size. */
function wholeView(full: FrameSize, size: FrameSize): { projection: Projection; view: View } {
  const unit = halfDiagonal(full);
  return {
    projection: { size: full, focal: 1, model: NO_DISTORTION, rotation: IDENTITY },
    view: {
      left: -full.width / unit / 2,
      top: -full.height / unit / 2,
      pixel: full.width / unit / size.width,
      ...size
    }
  };
}

interface Making {
  pool: Pool;
  signal?: AbortSignal;
}

/** Runs a task that fills bands of the codes. */
const inCodes = (
  size: FrameSize,
  { pool, signal }: Making,
  name: string,
  given: object
): Promise<Uint16Array> =>
  filled(takeUint16(size.width * size.height * 3), (out) =>
    inBands(size.height, BAND, signal, (from, to) => pool.run({ ...given, from, to, out }, { name, signal }))
  );

/** From developed planes. */
const codesOfPlanes = (planes: PlacedPlanes, size: FrameSize, making: Making): Promise<Uint16Array> =>
  inScope(async ({ atEnd }) => {
    const halves = halvesOf(planes, making.pool);
    atEnd(halves.close);
    const source = await halves.halfFor(planes.width / size.width, making.signal);
    return inCodes(size, making, 'reduceStored', { source, ...wholeView(planes, size) });
  });

/** From the mosaic itself, each colour from its own place: demosaicing all of it for a picture far smaller takes much longer. */
const codesOfMosaic = (mosaic: Mosaic, size: FrameSize, making: Making): Promise<Uint16Array> =>
  inScope(async ({ atEnd }) => {
    const { pool, signal } = making;
    const lattices = takeLattices(mosaic);
    atEnd(() => giveLatticesBack(lattices));
    await inBands(mosaic.height, BAND, signal, (from, to) =>
      pool.run({ mosaic, lattices, from, to }, { name: 'split', signal })
    );
    return inCodes(size, making, 'reduceSplit', { lattices, ...wholeView(lattices.size, size) });
  });

export interface Proxy {
  codes: Uint16Array;
  size: FrameSize;
}

/** Longest edge up to which a mosaic is developed: beyond, it has a site of each colour for every pixel of the proxy. */
export const LARGEST_DEVELOPED = 2 * PROXY_EDGE;

/** Makes and keeps the proxy of a decoded file, whose memory is given back, and returns its size. */
export async function makeProxy(
  { pool, data }: Context,
  sha256: string,
  decoded: Decoded,
  signal?: AbortSignal
): Promise<FrameSize> {
  const full = decoded.facts.size;
  const size = proxySize(full);
  await inScope(async ({ own, ownAll }) => {
    const making = { pool, signal };
    let codes: Uint16Array;
    if (decoded.kind === 'mosaic' && Math.max(full.width, full.height) > LARGEST_DEVELOPED) {
      own(decoded.mosaic.data);
      codes = own(await codesOfMosaic(decoded.mosaic, size, making));
    } else {
      const { planes } = await developInPool(decoded, pool, { signal });
      codes = own(await codesOfPlanes(ownAll(planes), size, making));
    }
    await writeWhole(proxyPath(data, sha256, decoded.facts), bytesOf(codes));
  });
  return size;
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
  const [size, full] = [frame.proxy, frame.facts.size];
  const bytes = await readFile(proxyPath(context.data, frame.sha256, frame.facts));
  return inScope(({ own }) => {
    const codes = own(takeUint16(bytes.length / 2));
    codes.set(new Uint16Array(bytes.buffer, bytes.byteOffset, codes.length));
    return proxyPlanes({ codes, size }, full, context.pool);
  });
}

/** After import: the linear proxy the bench works on, and the facts of the file. */
import { join } from 'node:path';
import { type FrameSize, halfDiagonal } from '../../core/camera/frame-geometry.ts';
import { IDENTITY } from '../../core/lines/rotation.ts';
import { NO_DISTORTION } from '../../core/lens/brown.ts';
import type { View } from '../../core/pipeline/map-mesh.ts';
import type { PlacedPlanes } from '../../core/pipeline/planes.ts';
import type { Projection } from '../../core/pipeline/projection.ts';
import type { App } from '../app.ts';
import { UserError } from '../decode/user-error.ts';
import { originalPath } from '../originals/store-original.ts';
import { writeWhole } from '../originals/write-whole.ts';
import { decodeInPool, developInPool, halvedFor } from '../render/linear-source.ts';
import { type Pool, inBands } from '../render/pool.ts';
import { sharedUint16 } from '../render/shared-array.ts';

/** Longest edge of the proxy in pixels. */
export const PROXY_EDGE = 2048;

export function derivedPath(data: string, sha256: string, file: string): string {
  return join(data, 'derived', sha256.slice(0, 2), sha256, file);
}

export function proxySize({ width, height }: FrameSize): FrameSize {
  const scale = Math.min(1, PROXY_EDGE / Math.max(width, height));
  return { width: Math.max(1, Math.round(width * scale)), height: Math.max(1, Math.round(height * scale)) };
}

/** Interleaved linear 16-bit values of a whole frame at a size. */
export async function linearAt(planes: PlacedPlanes, size: FrameSize, pool: Pool): Promise<Uint16Array> {
  const full: FrameSize = { width: planes.width, height: planes.height };
  const unit = halfDiagonal(full);
  const projection: Projection = { size: full, focal: 1, model: NO_DISTORTION, rotation: IDENTITY };
  const pixel = full.width / unit / size.width;
  const view: View = { left: -full.width / unit / 2, top: -full.height / unit / 2, pixel, ...size };
  const source = await halvedFor(planes, full.width / size.width, pool);
  const out = sharedUint16(size.width * size.height * 3);
  await inBands(size.height, 256, undefined, (from, to) =>
    pool.run({ source, projection, view, from, to, out }, { name: 'reduceLinear' })
  );
  return out;
}

export async function prepareFrame(app: App, id: string): Promise<void> {
  const { rows } = await app.db.query<{ sha256: string; name: string }>(
    `select sha256, name from frames where id = $1 and state = 'preparing'`,
    [id]
  );
  if (rows.length === 0) return;
  const { sha256, name } = rows[0];
  try {
    const decoded = await decodeInPool(originalPath(app.data, sha256), name, app.pool);
    const { facts, planes } = await developInPool(decoded, app.pool);
    const size = proxySize(facts.size);
    const proxy = await linearAt(planes, size, app.pool);
    await writeWhole(derivedPath(app.data, sha256, 'proxy.bin'), new Uint8Array(proxy.buffer));
    await app.db.query(
      `update frames set state = 'ready', error = null, facts = $2, proxy = $3 where id = $1`,
      [id, facts, size]
    );
  } catch (error) {
    const message =
      error instanceof UserError
        ? error.message
        : 'This file could not be prepared. Remove it and add it again.';
    if (!(error instanceof UserError)) console.error(`frame ${name}:`, error);
    await app.db.query(`update frames set state = 'failed', error = $2 where id = $1`, [id, message]);
  }
}

/** After import: the linear proxy the bench works on, and the facts of the file. */
import { readFile } from 'node:fs/promises';
import { join } from 'node:path';
import type { FrameFacts } from '../../core/camera/frame-facts.ts';
import { fitLateral } from '../../core/lateral/fit-lateral.ts';
import type { LateralEdge } from '../../core/lateral/measure-edges.ts';
import { type FrameSize, halfDiagonal } from '../../core/math/frame-geometry.ts';
import { IDENTITY } from '../../core/math/matrix3.ts';
import { type Lateral, NO_DISTORTION } from '../../core/lens/lens-model.ts';
import type { View } from '../../core/tile/mesh.ts';
import type { PlacedPlanes } from '../../core/tile/planes.ts';
import type { Projection } from '../../core/geometry/projection.ts';
import type { App } from '../app.ts';
import { UserError } from '../decode/user-error.ts';
import { originalPath } from '../originals/store-original.ts';
import { writeWhole } from '../originals/write-whole.ts';
import { decodeInPool, developInPool, edgesInPool, halvesOf } from '../render/linear-source.ts';
import { type Pool, inBands } from '../render/pool.ts';
import { giveBack, giveBackPlanes, lentUint16 } from '../render/lent-memory.ts';
import type { OnAdding } from '../jobs/jobs.ts';
import { trueUpFrame } from './true-up-frame.ts';

/** Longest edge of the proxy in pixels. */
export const PROXY_EDGE = 2048;

export function derivedPath(data: string, sha256: string, file: string): string {
  return join(data, 'derived', sha256.slice(0, 2), sha256, file);
}

export function proxySize({ width, height }: FrameSize): FrameSize {
  const scale = Math.min(1, PROXY_EDGE / Math.max(width, height));
  return { width: Math.max(1, Math.round(width * scale)), height: Math.max(1, Math.round(height * scale)) };
}

/** The bytes of an array that may be a part of its memory. */
export const bytesOf = ({ buffer, byteOffset, byteLength }: Uint16Array): Uint8Array =>
  new Uint8Array(buffer, byteOffset, byteLength);

/** Stored 16-bit codes of a whole frame at a size; their memory is the caller's to give back. */
export async function storedAt(planes: PlacedPlanes, size: FrameSize, pool: Pool): Promise<Uint16Array> {
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

/** Half the diagonal of a body's sensor, where the file says nothing of it and the catalogue knows the body. */
async function bodySensor(app: App, facts: FrameFacts): Promise<number | null> {
  if (facts.focalLength35) return null;
  const { rows } = await app.db.query<{ sensor_half_diagonal: number }>(
    'select sensor_half_diagonal from camera_bodies where lower(maker) = lower($1) and lower(model) = lower($2)',
    [facts.make, facts.model]
  );
  return rows[0]?.sensor_half_diagonal ?? null;
}

/** What a frame's own edges say of red and blue. */
export interface FrameEdges {
  /** Edges of the developed picture: what is left to see, for the Fringe reading. */
  edges: LateralEdge[];
  /** Sizes of red and blue, measured on single colours of the mosaic where there is one; else null with the reason. */
  lateral: Lateral | null;
  reason: string;
}

export async function readEdges(app: App, sha256: string): Promise<FrameEdges> {
  const text = await readFile(derivedPath(app.data, sha256, 'edges.json'), 'utf8').catch(() => null);
  return text
    ? (JSON.parse(text) as FrameEdges)
    : { edges: [], lateral: null, reason: 'The edges were not measured.' };
}

/** Edges as single colours of the mosaic show them: for measuring a lens from many frames. */
export async function readSingleEdges(app: App, sha256: string): Promise<LateralEdge[]> {
  const text = await readFile(derivedPath(app.data, sha256, 'single-edges.json'), 'utf8').catch(() => '[]');
  return JSON.parse(text) as LateralEdge[];
}

/** Frames in hand: after a restart the queue may hold one twice. */
const inHand = new Set<string>();

export async function prepareFrame(app: App, id: string): Promise<void> {
  if (inHand.has(id)) return;
  inHand.add(id);
  try {
    await prepare(app, id);
  } finally {
    inHand.delete(id);
  }
}

async function prepare(app: App, id: string): Promise<void> {
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
    const proxy = await storedAt(planes, size, app.pool);
    await writeWhole(derivedPath(app.data, sha256, 'proxy.bin'), bytesOf(proxy));
    giveBack(proxy);
    const edges = await edgesInPool(planes, app.pool);
    giveBackPlanes(planes);
    const single = decoded.kind === 'mosaic' ? decoded.edges! : edges;
    const fit = fitLateral(single, halfDiagonal(facts.size));
    const measured: FrameEdges = {
      edges,
      lateral: fit.ok ? fit.lateral : null,
      reason: fit.ok ? '' : fit.reason
    };
    await writeWhole(derivedPath(app.data, sha256, 'edges.json'), JSON.stringify(measured));
    await writeWhole(derivedPath(app.data, sha256, 'single-edges.json'), JSON.stringify(single));
    facts.sensorHalfDiagonal ??= await bodySensor(app, facts);
    const { rows: jobs } = await app.db.query<{ true_up: OnAdding; version: number }>(
      `update frames f set error = null, facts = $2, proxy = $3 from jobs j
       where f.id = $1 and j.id = f.job_id returning j.true_up, f.version`,
      [id, facts, size]
    );
    // Only what nobody has worked on yet: a frame prepared anew keeps its own correction.
    const [job] = jobs;
    if (job && job.true_up !== 'none' && job.version === 0) await trueUpFrame(app, id, job.true_up);
    await app.db.query(`update frames set state = 'ready' where id = $1`, [id]);
  } catch (error) {
    const message =
      error instanceof UserError
        ? error.message
        : 'This file could not be prepared. Remove it and add it again.';
    if (!(error instanceof UserError)) console.error(`frame ${name}:`, error);
    await app.db.query(`update frames set state = 'failed', error = $2 where id = $1`, [id, message]);
  }
}

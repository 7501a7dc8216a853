/** Full-size pixels for the bench at 1:1, in tiles; made when first asked for and kept on disk. */
import { open, stat, utimes, readdir, rm } from 'node:fs/promises';
import { join } from 'node:path';
import type { FrameSize } from '../../core/math/frame-geometry.ts';
import type { Context } from '../context.ts';
import { originalOf } from '../originals/store-original.ts';
import { writeWhole } from '../originals/write-whole.ts';
import { takeUint16 } from '../../core/picture/kernels/heap.ts';
import { filled, inScope } from '../../core/picture/kernels/scope.ts';
import type { PlacedPlanes } from '../../core/picture/tile/planes.ts';
import { inBands } from '../render/pool.ts';
import { developInPool } from '../render/linear-source.ts';
import { bytesOf } from '../bytes-of.ts';
import { readOriginal } from '../render/read-original.ts';
import { derivedPath, madeTag, ofPixels } from '../originals/derived.ts';
import { keptEdges } from './frame-edges.ts';
import type { FrameRow } from './frame-row.ts';

/** Tile edge in pixels. */
export const TILE = 512;
/** Most disk space for full-size pixels; the longest unused go first. */
const MOST_CACHE = 4 * 1024 ** 3;

/** Its name changes with the codes that it holds. */
const FULL = 'full-tiles.bin';

/** Milliseconds within which a use is not noted again. */
const USED_WITHIN = 60_000;

const making = new Map<string, Promise<void>>();

async function trimCache(data: string): Promise<void> {
  const root = join(data, 'derived');
  const files: { path: string; bytes: number; used: number }[] = [];
  for (const entry of await readdir(root, { recursive: true })) {
    if (!entry.endsWith(FULL)) continue;
    const path = join(root, entry);
    const { size, atimeMs } = await stat(path);
    files.push({ path, bytes: size, used: atimeMs });
  }
  let total = files.reduce((sum, file) => sum + file.bytes, 0);
  for (const file of files.sort((a, b) => a.used - b.used)) {
    if (total <= MOST_CACHE) return;
    await rm(file.path, { force: true });
    total -= file.bytes;
  }
}

interface Tile {
  left: number;
  top: number;
  width: number;
  height: number;
  /** Number of its first pixel in the file: tiles stand one after another. */
  first: number;
}

/** The tile of a column and row; null outside the frame. */
function tileAt({ width, height }: FrameSize, column: number, row: number): Tile | null {
  const [left, top] = [column * TILE, row * TILE];
  if (left < 0 || top < 0 || left >= width || top >= height) return null;
  const size = { width: Math.min(TILE, width - left), height: Math.min(TILE, height - top) };
  return { left, top, ...size, first: top * width + left * size.height };
}

/** All tiles of developed planes, one after another. */
async function storeTiles(
  { pool }: Context,
  planes: PlacedPlanes,
  size: FrameSize,
  codes: Uint16Array
): Promise<void> {
  const rows = Math.ceil(size.height / TILE);
  const columns = Math.ceil(size.width / TILE);
  await inBands(rows * columns, 1, undefined, (i) => {
    const { first, ...tile } = tileAt(size, i % columns, Math.floor(i / columns))!;
    const out = codes.subarray(first * 3, (first + tile.width * tile.height) * 3);
    return pool.run({ planes, tile, out }, { name: 'storeTile' });
  });
}

async function makeFull(context: Context, frame: FrameRow, path: string): Promise<void> {
  const kept = await keptEdges(context, frame.sha256);
  const { decoded } = await readOriginal(context.pool, originalOf(context.data, frame), { edges: !kept });
  if (kept && decoded.kind === 'mosaic') decoded.mosaic.lateral = kept.lateral;
  const { facts, planes } = await developInPool(decoded, context.pool);
  const { size } = facts;
  const codes = await inScope(({ ownAll }) => {
    ownAll(planes);
    return filled(takeUint16(size.width * size.height * 3), (codes) =>
      storeTiles(context, planes, size, codes)
    );
  });
  await inScope(({ own }) => writeWhole(path, bytesOf(own(codes))));
  await trimCache(context.data);
}

/** A tile of full-size pixels. */
export interface FullTile {
  /** Tells one making of the pixels from another. */
  tag: string;
  /** Interleaved 16-bit codes; smaller at the right and lower edges. */
  read(): Promise<Buffer>;
}

/** The tile of a column and row, made where it is not there yet; null outside the frame. */
export async function fullTile(
  context: Context,
  frame: FrameRow,
  column: number,
  row: number
): Promise<FullTile | null> {
  const tile = frame.facts && tileAt(frame.facts.size, column, row);
  if (!tile) return null;
  const path = derivedPath(context.data, frame.sha256, ofPixels(FULL, frame.facts!));
  if (!(await stat(path).catch(() => null))) {
    if (!making.has(path)) {
      making.set(
        path,
        makeFull(context, frame, path).finally(() => making.delete(path))
      );
    }
    await making.get(path);
  }
  return { tag: await madeTag(path), read: () => readPart(path, tile) };
}

async function readPart(path: string, tile: Tile): Promise<Buffer> {
  const out = Buffer.allocUnsafeSlow(tile.width * tile.height * 6);
  const file = await open(path, 'r');
  try {
    const { bytesRead } = await file.read(out, 0, out.length, tile.first * 6);
    if (bytesRead < out.length) throw new Error('The full-size pixels are cut short.');
  } finally {
    await file.close();
  }
  // Used just now; its own time tells when it was made.
  const { mtime, atimeMs } = await stat(path);
  if (Date.now() - atimeMs > USED_WITHIN) await utimes(path, new Date(), mtime).catch(() => {});
  return out;
}

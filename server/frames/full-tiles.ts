/** Full-size pixels for the bench at 1:1, in tiles; made when first asked for and kept on disk. */
import { open, stat, utimes, readdir, rm } from 'node:fs/promises';
import { join } from 'node:path';
import type { Context } from '../context.ts';
import { originalPath } from '../originals/store-original.ts';
import { writeWhole } from '../originals/write-whole.ts';
import { giveBack, giveBackPlanes, lentUint16 } from '../render/lent-memory.ts';
import { inBands } from '../render/pool.ts';
import { developInPool } from '../render/linear-source.ts';
import { bytesOf } from '../bytes-of.ts';
import { derivedPath } from './derived.ts';
import type { FrameRow } from './frame-row.ts';

/** Tile edge in pixels. */
export const TILE = 512;
/** Most disk space for full-size pixels; the longest unused go first. */
const MOST_CACHE = 4 * 1024 ** 3;

/** Its name changes with the codes that it holds. */
const FULL = 'full-root.bin';

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

async function makeFull(context: Context, frame: FrameRow, path: string): Promise<void> {
  const { decoded } = await context.pool.read(originalPath(context.data, frame.sha256), frame.name);
  const { facts, planes } = await developInPool(decoded, context.pool);
  const { width, height } = facts.size;
  const values = lentUint16(width * height * 3);
  await inBands(height, 512, undefined, (from, to) =>
    context.pool.run({ planes, from, to, out: values }, { name: 'store' })
  );
  giveBackPlanes(planes);
  await writeWhole(path, bytesOf(values));
  giveBack(values);
  await trimCache(context.data);
}

/** Interleaved 16-bit codes of a tile (smaller at the right and lower edges), or null outside the frame. */
export async function readTile(
  context: Context,
  frame: FrameRow,
  column: number,
  row: number
): Promise<Buffer | null> {
  if (!frame.facts) return null;
  const { width, height } = frame.facts.size;
  const left = column * TILE;
  const top = row * TILE;
  if (left < 0 || top < 0 || left >= width || top >= height) return null;
  const path = derivedPath(context.data, frame.sha256, FULL);
  if (!(await stat(path).catch(() => null))) {
    if (!making.has(path)) {
      making.set(
        path,
        makeFull(context, frame, path).finally(() => making.delete(path))
      );
    }
    await making.get(path);
  }
  const columns = Math.min(TILE, width - left);
  const rows = Math.min(TILE, height - top);
  const out = Buffer.alloc(columns * rows * 6);
  const file = await open(path, 'r');
  try {
    for (let y = 0; y < rows; y++) {
      await file.read(out, y * columns * 6, columns * 6, ((top + y) * width + left) * 6);
    }
  } finally {
    await file.close();
  }
  const now = new Date();
  await utimes(path, now, now).catch(() => {});
  return out;
}

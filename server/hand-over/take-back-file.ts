/** Takes a file back that another program changed: as a frame of its own beside the one that was handed over. */
import { createReadStream } from 'node:fs';
import { rm } from 'node:fs/promises';
import { basename } from 'node:path';
import type { PoolClient } from 'pg';
import { giveBack } from '../../core/picture/kernels/heap.ts';
import type { FrameSize } from '../../core/math/frame-geometry.ts';
import type { PartialRecipe } from '../../core/recipe/recipe.ts';
import type { Context } from '../context.ts';
import { isDatabaseAway } from '../database/away.ts';
import { pathInFolder } from '../deliveries/delivery-folder.ts';
import { storedRecipe } from '../frames/read-recipe.ts';
import { removeUnused } from '../originals/remove-unused.ts';
import { type ReceivedFile, keepOriginal, receiveFile } from '../originals/store-original.ts';
import { withOriginal } from '../originals/with-original.ts';
import { dataOf } from '../render/linear-source.ts';
import { UserError } from '../user-error.ts';
import { PREPARE } from '../work/names.ts';
import { handOverFolder } from './hand-over-folder.ts';
import type { Outside } from '../render/outside.ts';
import { seenOf } from './seen.ts';

/** Its lens was corrected before it was handed over: nothing is done to it twice. */
const COME_BACK: PartialRecipe = { lens: { profile: 'none' } };

interface Out {
  id: string;
  frame_id: string;
  returned_id: string | null;
  sha256: string;
  seen: string | null;
  width: number;
  height: number;
  handed_at: Date;
  frame: string;
  room: string;
  job_id: string;
}

const day = (date: Date): string => date.toISOString().slice(0, 10);

/** Sees to it that a file can be opened whole, before anything is changed. */
async function sizeOf({ pool }: Context, path: string, name: string): Promise<FrameSize> {
  const { decoded } = await pool.read(path, name, { edges: false });
  giveBack(dataOf(decoded));
  return decoded.facts.size;
}

/** The frame that came back before takes the file, else a new one is made; answers its id and what it stood on before. */
async function put(
  client: PoolClient,
  out: Out,
  { sha256, bytes }: ReceivedFile,
  outside: Outside,
  name: string
): Promise<{ id: string; before: string | null }> {
  await client.query(
    'insert into originals (sha256, bytes) values ($1, $2) on conflict (sha256) do nothing',
    [sha256, bytes]
  );
  const { rows: held } = await client.query<{ id: string; job_id: string; before: string }>(
    'select id, job_id, sha256 as before from frames where id = $1 for update',
    [out.returned_id]
  );
  const job = held[0]?.job_id ?? out.job_id;
  const { rows: same } = await client.query<{ id: string; name: string }>(
    'select id, name from frames where job_id = $1 and sha256 = $2',
    [job, sha256]
  );
  if (same[0] && same[0].id !== held[0]?.id)
    throw new UserError(`The same picture is in the job already, as ${same[0].name}.`);
  if (held[0]) {
    await client.query(
      `update frames set sha256 = $2, outside = $3, state = 'preparing', error = null, measured = false, version = version + 1
       where id = $1`,
      [held[0].id, sha256, outside]
    );
    return held[0];
  }
  // Worked on already: it is neither made true by itself, nor are house settings laid over it.
  const { rows } = await client.query<{ id: string }>(
    `insert into frames (job_id, sha256, name, room, recipe, profile, outside, version)
     values ($1, $2, $3, $4, $5, 'none', $6, 1) returning id`,
    [job, sha256, name, out.room, storedRecipe(COME_BACK), outside]
  );
  return { id: rows[0].id, before: null };
}

async function takeBack(context: Context, out: Out, path: string): Promise<void> {
  const name = basename(path);
  const file = await receiveFile(context.data, name, createReadStream(path));
  try {
    // Saved as it was, or seen twice.
    if (file.sha256 === out.sha256) return await rm(file.temporary, { force: true });
    const size = await sizeOf(context, file.temporary, name);
    const resized = size.width !== out.width || size.height !== out.height;
    const outside: Outside = {
      of: out.frame,
      handed: day(out.handed_at),
      back: day(new Date()),
      was: resized ? { width: out.width, height: out.height } : null
    };
    const { id, before } = await withOriginal(context.db, file.sha256, async (client) => {
      await keepOriginal(context.data, file);
      const made = await put(client, out, file, outside, name);
      await client.query('update hand_overs set returned_id = $2, sha256 = $3 where id = $1', [
        out.id,
        made.id,
        file.sha256
      ]);
      return made;
    });
    if (before) await removeUnused(context, [before]);
    await context.enqueue(PREPARE, [id]);
    await context.notices.tell({ job: out.job_id, frame: id });
  } catch (error) {
    await rm(file.temporary, { force: true });
    // The original may be kept by now without a frame.
    await removeUnused(context, [file.sha256]).catch(() => {});
    throw error;
  }
}

/** `file`: path in the folder of all hand-overs. What is not known there, and what looks as before, is left alone. */
export async function takeBackFile(context: Context, file: string): Promise<void> {
  const { rows } = await context.db.query<Out>(
    `select h.id, h.frame_id, h.returned_id, h.sha256, h.seen, h.width, h.height, h.handed_at,
       f.name as frame, f.room, f.job_id
     from hand_overs h join frames f on f.id = h.frame_id where h.file = $1 and h.state = 'out'`,
    [file]
  );
  const [out] = rows;
  if (!out) return;
  const path = pathInFolder(handOverFolder(context), file);
  const seen = await seenOf(path);
  if (seen === out.seen) return;
  let error: string | null = null;
  try {
    if (seen === null)
      throw new UserError(
        'The file is no longer in the hand-over folder. Put it back there, or hand the frame over again; the frame itself is as it was.'
      );
    await takeBack(context, out, path);
  } catch (reason) {
    if (isDatabaseAway(reason)) throw reason;
    if (!(reason instanceof UserError)) console.error(`hand-over ${file}:`, reason);
    error =
      reason instanceof UserError ? reason.message : 'The file could not be taken back. Save it once more.';
  }
  await context.db.query('update hand_overs set seen = $2, error = $3 where id = $1', [out.id, seen, error]);
  await context.notices.tell({ job: out.job_id, frame: out.frame_id });
}

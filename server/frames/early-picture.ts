/** What can be seen of a frame until it is prepared: the picture that its file brings along. */
import { readFile, stat } from 'node:fs/promises';
import type { Context } from '../context.ts';
import { originalPath } from '../originals/store-original.ts';
import { writeWhole } from '../originals/write-whole.ts';
import { derivedPath } from '../originals/derived.ts';

const pathOf = (context: Context, sha256: string): string =>
  derivedPath(context.data, sha256, 'embedded.jpg');

export const hasEarlyPicture = (context: Context, sha256: string): Promise<boolean> =>
  stat(pathOf(context, sha256)).then(
    () => true,
    () => false
  );

export const earlyPicture = (context: Context, sha256: string): Promise<Buffer | null> =>
  readFile(pathOf(context, sha256)).catch(() => null);

/** Takes the picture out of a file that was just added, and tells of it. */
export async function takeEarlyPicture(
  context: Context,
  { id, jobId, sha256, name }: { id: string; jobId: string; sha256: string; name: string }
): Promise<void> {
  if (await hasEarlyPicture(context, sha256)) return;
  const jpeg = await context.pool.picture(originalPath(context.data, sha256), name);
  if (!jpeg) return;
  await writeWhole(pathOf(context, sha256), jpeg);
  await context.notices.tell({ job: jobId, frame: id });
}

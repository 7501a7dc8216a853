/** A job as one ZIP, made as it is read: its originals never lie in memory together. */
import { createHash } from 'node:crypto';
import { stat } from 'node:fs/promises';
import type { Readable } from 'node:stream';
import { safeName } from '../../core/picture/output/file-name.ts';
import type { Context } from '../context.ts';
import { zipStream } from '../documents/zip-stream.ts';
import { originalPath } from '../originals/store-original.ts';
import { UserError } from '../user-error.ts';
import { CONTENTS, SUMS } from './archive-format.ts';
import { gatherJob } from './gather-job.ts';

const sha256 = (content: string | Uint8Array): string => createHash('sha256').update(content).digest('hex');

export interface JobArchive {
  /** Name of the file. */
  name: string;
  stream: Readable;
}

export async function jobArchive(context: Context, jobId: string): Promise<JobArchive> {
  const { contents, small } = await gatherJob(context, jobId);
  for (const { name, sha256, bytes } of contents.frames) {
    const found = await stat(originalPath(context.data, sha256)).catch(() => null);
    if (found?.size !== bytes)
      throw new UserError(
        `The stored original of ${name} is gone or cut short: take it from a backup, or remove the frame, and make the archive again.`
      );
  }
  const files = [{ path: CONTENTS, content: `${JSON.stringify(contents, null, 2)}\n` }, ...small];
  const sums = [
    ...files.map(({ path, content }) => `${sha256(content)}  ${path}`),
    ...contents.frames.map((frame) => `${frame.sha256}  ${frame.file}`)
  ];
  const zip = zipStream();
  for (const { path, content } of files) zip.addText(path, content);
  zip.addText(SUMS, `${sums.join('\n')}\n`);
  for (const { file, name, sha256, bytes } of contents.frames)
    zip.addFile(file, originalPath(context.data, sha256), {
      sha256,
      bytes,
      fault: `The stored original of ${name} is no longer what was added.`
    });
  return { name: `${safeName(contents.job.name)}.line-true.zip`, stream: zip.end() };
}

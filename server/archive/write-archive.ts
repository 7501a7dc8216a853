/** A job as one ZIP, made as it is read: its originals never lie in memory together. */
import { createHash } from 'node:crypto';
import { createReadStream } from 'node:fs';
import { stat } from 'node:fs/promises';
import { PassThrough, type Readable, Transform, pipeline } from 'node:stream';
import { ZipFile } from 'yazl';
import { safeName } from '../../core/picture/output/file-name.ts';
import type { Context } from '../context.ts';
import { originalPath } from '../originals/store-original.ts';
import { UserError } from '../user-error.ts';
import { CONTENTS, SUMS } from './archive-format.ts';
import { gatherJob } from './gather-job.ts';

/** A fixed time keeps the archive of the same job the same file. */
const STAMP = new Date(Date.UTC(2000, 0, 1, 12));
const OPTIONS = { mtime: STAMP, mode: 0o100644 };

const sha256 = (content: string | Uint8Array): string => createHash('sha256').update(content).digest('hex');

/** Passes a file on, and breaks off in the end where it is not what it has to be. */
function checked(expected: string, name: string): Transform {
  const hash = createHash('sha256');
  return new Transform({
    transform(chunk: Buffer, _, done) {
      hash.update(chunk);
      done(null, chunk);
    },
    flush(done) {
      const same = hash.digest('hex') === expected;
      done(same ? null : new Error(`The stored original of ${name} is no longer what was added.`));
    }
  });
}

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
  const zip = new ZipFile();
  const out = new PassThrough();
  const fail = (error: Error): void => void out.destroy(error);
  zip.on('error', fail);
  /** What is being read: it is closed when the ZIP breaks off. */
  let reading: Readable | null = null;
  for (const { path, content } of files) zip.addBuffer(Buffer.from(content), path, OPTIONS);
  zip.addBuffer(Buffer.from(`${sums.join('\n')}\n`), SUMS, OPTIONS);
  // Raw files hardly get smaller, and are to be copied fast.
  for (const frame of contents.frames)
    zip.addReadStreamLazy(frame.file, { ...OPTIONS, compress: false, size: frame.bytes }, (ready) => {
      const file = createReadStream(originalPath(context.data, frame.sha256));
      const through = checked(frame.sha256, frame.name);
      reading = file;
      pipeline(file, through, (error) => error && fail(error));
      ready(null, through);
    });
  zip.end();
  pipeline(zip.outputStream as Readable, out, () => reading?.destroy());
  return { name: `${safeName(contents.job.name)}.line-true.zip`, stream: out };
}

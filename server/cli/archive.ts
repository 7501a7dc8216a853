/** A job of a running Line True as one file, and such a file taken in. */
import { createWriteStream } from 'node:fs';
import { rename, rm } from 'node:fs/promises';
import { Readable } from 'node:stream';
import type { ReadableStream } from 'node:stream/web';
import { pipeline } from 'node:stream/promises';
import { parseArgs } from 'node:util';
import { UserError } from '../user-error.ts';
import { UsageError, WriteError } from './files.ts';
import { INSTALLATION_OPTIONS, reachInstallation } from './installation.ts';

interface Listed {
  id: string;
  name: string;
}

export async function archive(args: string[]): Promise<void> {
  const { values, positionals } = parseArgs({
    args,
    allowPositionals: true,
    options: { out: { type: 'string' }, ...INSTALLATION_OPTIONS }
  });
  if (positionals.length !== 1) throw new UsageError('archive takes one job, by its name or id.');
  if (!values.out) throw new UsageError('archive needs --out FILE.');
  const there = await reachInstallation(values);
  const jobs = (await (await there.get('/api/jobs')).json()) as Listed[];
  const [wanted] = positionals;
  const found = jobs.filter(({ id, name }) => id === wanted || name === wanted);
  if (found.length === 0)
    throw new UserError(
      `There is no job "${wanted}". There are: ${jobs.map(({ name }) => name).join(', ') || 'none'}.`
    );
  if (found.length > 1)
    throw new UserError(
      `Several jobs are called "${wanted}". Name one by its id: ${found.map(({ id }) => id).join(', ')}.`
    );
  const { body } = await there.get(`/api/jobs/${found[0].id}/archive`);
  const part = `${values.out}.${process.pid}.part`;
  const source = Readable.fromWeb(body as ReadableStream);
  let broken = false;
  source.once('error', () => (broken = true));
  try {
    await pipeline(source, createWriteStream(part, { flags: 'wx' }));
    await rename(part, values.out);
  } catch (error) {
    await rm(part, { force: true });
    if (broken)
      throw new UserError(
        'The archive broke off: an original is damaged, or the connection was lost. Open the job to see which.'
      );
    throw new WriteError(`${values.out} cannot be written (${(error as NodeJS.ErrnoException).code}).`);
  }
  process.stdout.write(`${found[0].name}: ${values.out}\n`);
}

export async function takeIn(args: string[]): Promise<void> {
  const { values, positionals } = parseArgs({ args, allowPositionals: true, options: INSTALLATION_OPTIONS });
  if (positionals.length !== 1) throw new UsageError('take-in takes one job archive.');
  const there = await reachInstallation(values);
  const taken = (await there.send('/api/jobs/take-in', positionals[0])) as Listed & { frames: number };
  process.stdout.write(
    `${taken.name}: ${taken.frames} ${taken.frames === 1 ? 'frame' : 'frames'} taken in.\n`
  );
}

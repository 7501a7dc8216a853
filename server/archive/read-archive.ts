/** Reads a ZIP from elsewhere: nothing of it is believed, and each file is what its SHA-256 says, or refused. */
import { createHash } from 'node:crypto';
import { stat } from 'node:fs/promises';
import type { Readable } from 'node:stream';
import { type Entry, type ZipFile, open } from 'yauzl';
import { UserError } from '../user-error.ts';
import { SUMS } from './archive-format.ts';

/** Most files, bytes of one that is read into memory, and how much larger than the archive all of it may be. */
const MOST_FILES = 50_000;
const MOST_SMALL = 64 * 1024 * 1024;
const MOST_TIMES = 20;
const SLACK = 16 * 1024 * 1024;

export interface Archive {
  /** SHA-256 that a file has to have; throws a UserError where it is not in the archive. */
  sumOf(path: string): string;
  /** The whole of a small file, checked. */
  read(path: string): Promise<Buffer>;
  /** A file's bytes as they come: whoever reads them checks them. */
  stream(path: string): Promise<{ stream: Readable; bytes: number }>;
  close(): void;
}

const NO_ARCHIVE =
  'This is no job archive, or it is cut short. Archives are made on the page of a job; copy it again and take it in once more.';

const opened = (path: string): Promise<ZipFile> =>
  new Promise((resolve, reject) =>
    open(path, { lazyEntries: true, autoClose: false }, (error, zip) =>
      error ? reject(error) : resolve(zip)
    )
  );

const entriesOf = (zip: ZipFile): Promise<Entry[]> =>
  new Promise((resolve, reject) => {
    const entries: Entry[] = [];
    zip.on('error', reject);
    zip.on('end', () => resolve(entries));
    zip.on('entry', (entry: Entry) => {
      entries.push(entry);
      if (entries.length > MOST_FILES)
        reject(new UserError(`This archive holds over ${MOST_FILES} files: it is no job.`));
      else zip.readEntry();
    });
    zip.readEntry();
  });

const streamOf = (zip: ZipFile, entry: Entry): Promise<Readable> =>
  new Promise((resolve, reject) =>
    zip.openReadStream(entry, (error, stream) => (error ? reject(error) : resolve(stream)))
  );

/** What the reader of ZIPs says, in our words. */
function inWords(error: unknown): UserError {
  if (error instanceof UserError) return error;
  const { message } = error as Error;
  if (/invalid (relative|characters)|absolute path/i.test(message))
    return new UserError('This archive holds a file whose path leads out of it: it is not taken in.');
  return new UserError(NO_ARCHIVE);
}

/** Lines of the format of `sha256sum`. */
function readSums(text: string): Map<string, string> {
  const sums = new Map<string, string>();
  for (const line of text.split('\n').filter(Boolean)) {
    const [, sum, path] = /^([0-9a-f]{64}) [ *](.+)$/.exec(line) ?? [];
    if (!sum) throw new UserError(`${SUMS} of this archive is not whole.`);
    sums.set(path, sum);
  }
  return sums;
}

async function wholeOf(stream: Readable): Promise<Buffer> {
  const parts: Buffer[] = [];
  for await (const part of stream) parts.push(part as Buffer);
  return Buffer.concat(parts);
}

/** Throws a UserError where a file is no sound archive. To be closed. */
export async function openArchive(path: string): Promise<Archive> {
  const zip = await opened(path).catch((error: unknown) => {
    throw inWords(error);
  });
  try {
    const entries = new Map<string, Entry>();
    for (const entry of await entriesOf(zip)) {
      if (entry.fileName.endsWith('/')) continue;
      if (entries.has(entry.fileName)) throw new UserError(`This archive holds ${entry.fileName} twice.`);
      entries.set(entry.fileName, entry);
    }
    let all = 0;
    for (const { uncompressedSize } of entries.values()) all += uncompressedSize;
    const { size } = await stat(path);
    if (all > size * MOST_TIMES + SLACK)
      throw new UserError(
        `This archive would unpack to over ${MOST_TIMES} times its size: it is not taken in. Make it anew on the page of its job.`
      );
    const entryOf = (name: string): Entry => {
      const entry = entries.get(name);
      if (!entry)
        throw new UserError(
          `This archive lacks ${name}: ${NO_ARCHIVE[0].toLowerCase()}${NO_ARCHIVE.slice(1)}`
        );
      if (entry.isEncrypted())
        throw new UserError('This archive has a password: unpack it, and pack it without.');
      return entry;
    };
    const small = async (name: string): Promise<Buffer> => {
      const entry = entryOf(name);
      if (entry.uncompressedSize > MOST_SMALL)
        throw new UserError(`${name} of this archive is too large for what it is.`);
      return wholeOf(await streamOf(zip, entry));
    };
    const sums = readSums((await small(SUMS)).toString('utf8'));
    const sumOf = (name: string): string => {
      const sum = sums.get(name);
      if (!sum) throw new UserError(`${SUMS} of this archive says nothing of ${name}: it is not taken in.`);
      return sum;
    };
    return {
      sumOf,
      async read(name) {
        try {
          const expected = sumOf(name);
          const content = await small(name);
          if (createHash('sha256').update(content).digest('hex') !== expected)
            throw new UserError(changedText(name));
          return content;
        } catch (error) {
          throw inWords(error);
        }
      },
      async stream(name) {
        const entry = entryOf(name);
        try {
          return { stream: await streamOf(zip, entry), bytes: entry.uncompressedSize };
        } catch (error) {
          throw inWords(error);
        }
      },
      close: () => zip.close()
    };
  } catch (error) {
    zip.close();
    throw inWords(error);
  }
}

export const changedText = (name: string): string =>
  `${name} of this archive is not what was put in (its SHA-256 differs): nothing was taken in. Copy the archive again.`;

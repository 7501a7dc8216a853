/** A ZIP that is made as it is read: its files never lie in memory together. */
import { createHash } from 'node:crypto';
import type { ReadStream } from 'node:fs';
import { open } from 'node:fs/promises';
import { PassThrough, type Readable, Transform, pipeline } from 'node:stream';
import { ZipFile } from 'yazl';

/** ZIP times before 1980 do not exist; a fixed one keeps the same files the same ZIP. */
const ENTRY = { mtime: new Date(Date.UTC(2000, 0, 1, 12)), mode: 0o100644 };

/** What a file has to be, where that is known: else the ZIP breaks off. */
export interface ExpectedFile {
  sha256: string;
  bytes: number;
  /** What is said where it is something else. */
  fault: string;
}

export interface ZipStream {
  addText(name: string, content: string | Uint8Array): void;
  /** A file on the disk, not compressed: pictures are already. */
  addFile(name: string, path: string, expected?: ExpectedFile): void;
  /** Nothing more is added: what can be read. */
  end(): Readable;
}

/** Passes a file on, and breaks off in the end where it is not what it has to be. */
function checked({ sha256, fault }: ExpectedFile): Transform {
  const hash = createHash('sha256');
  return new Transform({
    transform(chunk: Buffer, _, done) {
      hash.update(chunk);
      done(null, chunk);
    },
    flush(done) {
      done(hash.digest('hex') === sha256 ? null : new Error(fault));
    }
  });
}

export function zipStream(): ZipStream {
  const zip = new ZipFile();
  const out = new PassThrough();
  /** The file that is being read: it is closed when the ZIP breaks off. */
  let reading: ReadStream | null = null;
  const fail = (error: Error): void => void out.destroy(error);
  const read = async (path: string, expected?: ExpectedFile): Promise<Readable> => {
    reading = (await open(path)).createReadStream();
    if (expected) return pipeline(reading, checked(expected), (error) => error && fail(error));
    // A file may be taken out of its folder while it is read.
    return reading.on('error', fail);
  };
  zip.on('error', fail);
  return {
    addText: (name, content) => zip.addBuffer(Buffer.from(content), name, ENTRY),
    addFile(name, path, expected) {
      const size = expected && { size: expected.bytes };
      zip.addReadStreamLazy(name, { ...ENTRY, compress: false, ...size }, (ready) => {
        read(path, expected).then(
          (stream) => ready(null, stream),
          (error: Error) => ready(error, null as never)
        );
      });
    },
    end() {
      zip.end();
      pipeline(zip.outputStream as Readable, out, () => reading?.destroy());
      return out;
    }
  };
}

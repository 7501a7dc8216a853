/** Parses files from elsewhere in a thread, so that one that takes long holds up nobody but who sent it. */
import { join } from 'node:path';
import { pathToFileURL } from 'node:url';
import { Piscina } from 'piscina';
import { UserError } from '../user-error.ts';
import { ROOT } from '../paths.ts';

/** What was read, or why it was not, in words for its user. */
export type Parsed<T> = { read: T } | { refused: string };

export interface Parser {
  /** What a function of `parse-worker.ts` reads; throws a UserError where it refuses. */
  parse<T>(name: 'cube' | 'profiles', given: object): Promise<T>;
  destroy(): Promise<void>;
}

/** Milliseconds without work after which the thread ends. */
const IDLE = 10_000;
/** Milliseconds that a file may take: more than anything sound does by far. */
const LONGEST = 60_000;
/** Megabytes of memory that a file may take up. */
const HEAP = 1024;

export function createParser(): Parser {
  const piscina = new Piscina({
    filename: pathToFileURL(join(ROOT, 'programs/parse-worker.mjs')).href,
    minThreads: 0,
    maxThreads: 1,
    idleTimeout: IDLE,
    resourceLimits: { maxOldGenerationSizeMb: HEAP }
  });
  piscina.on('error', () => {});
  return {
    async parse<T>(name: 'cube' | 'profiles', given: object): Promise<T> {
      let parsed: Parsed<T>;
      try {
        // It holds no memory that others share: it may be ended in the middle.
        const signal = AbortSignal.timeout(LONGEST);
        parsed = (await piscina.run(given, { name, signal })) as Parsed<T>;
      } catch {
        throw new UserError(
          'Reading this file took too long, or more memory than there is: it was left. Export it again, or split it.'
        );
      }
      if ('refused' in parsed) throw new UserError(parsed.refused);
      return parsed.read;
    },
    destroy: () => piscina.destroy()
  };
}

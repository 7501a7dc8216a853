/**
 * Runs one of the app's programs beside the test, which hears meanwhile that the server closed a connection that rested:
 * asked over such a one afterwards, it would not answer. Resolves with what was printed; rejects with what was said.
 */
import { execFile } from 'node:child_process';
import { join } from 'node:path';
import { promisify } from 'node:util';
import { ROOT } from '../../server/paths.ts';

const run = promisify(execFile);

export const runProgram = async (name: string, ...args: string[]): Promise<string> =>
  (await run(join(ROOT, 'bin', name), args)).stdout;

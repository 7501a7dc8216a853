/** A running Line True, as the command line reaches it. */
import { request } from 'node:http';
import { createReadStream } from 'node:fs';
import { stat } from 'node:fs/promises';
import { pipeline } from 'node:stream/promises';
import { UserError } from '../user-error.ts';
import { UsageError, readInput } from './files.ts';

export const INSTALLATION_OPTIONS = {
  at: { type: 'string', default: 'http://127.0.0.1:5400' },
  'password-file': { type: 'string' }
} as const;

export interface Installation {
  get(path: string): Promise<Response>;
  /** Sends a file as the plain body; answers what came of it. */
  send(path: string, file: string): Promise<unknown>;
}

async function faultOf(response: Response): Promise<UserError> {
  const said = (await response.json().catch(() => ({}))) as { error?: string };
  return new UserError(said.error ?? `Line True answered ${response.status}.`);
}

export async function reachInstallation(values: {
  at: string;
  'password-file'?: string;
}): Promise<Installation> {
  let base: URL;
  try {
    base = new URL(values.at);
  } catch {
    throw new UsageError(`--at takes an address such as http://127.0.0.1:5400, not "${values.at}".`);
  }
  if (base.protocol !== 'http:') throw new UsageError('--at takes an address that begins with http://.');
  const headers: Record<string, string> = {};
  const get = async (path: string, init: RequestInit = {}): Promise<Response> => {
    const response = await fetch(new URL(path, base), {
      ...init,
      headers: { ...headers, ...init.headers }
    }).catch(() => {
      throw new UserError(
        `No Line True answers at ${base.origin}. Start it with bin/start, or name it with --at.`
      );
    });
    if (!response.ok) throw await faultOf(response);
    return response;
  };
  if (values['password-file'] !== undefined) {
    const password = (await readInput(values['password-file'])).toString('utf8').replace(/\r?\n$/, '');
    const entered = await get('/api/enter', {
      method: 'POST',
      body: JSON.stringify({ password }),
      headers: { 'content-type': 'application/json' }
    });
    const [pass] = entered.headers.getSetCookie().map((cookie) => cookie.split(';')[0]);
    if (pass) headers.cookie = pass;
  }
  return {
    get,
    async send(path, file) {
      const found = await stat(file).catch(() => null);
      if (!found?.isFile()) throw new UserError(`There is no file ${file}.`);
      // Its answer may take longer than fetch waits for one.
      return new Promise((resolve, reject) => {
        const asked = request(
          new URL(path, base),
          {
            method: 'POST',
            headers: { ...headers, 'content-type': 'application/zip', 'content-length': found.size }
          },
          (answer) => {
            const parts: Buffer[] = [];
            answer.on('data', (part: Buffer) => parts.push(part));
            answer.on('error', reject);
            answer.on('end', () => {
              const text = Buffer.concat(parts).toString('utf8');
              const response = new Response(text, { status: answer.statusCode });
              if (response.ok) resolve(JSON.parse(text));
              else void faultOf(response).then(reject);
            });
          }
        );
        asked.on('error', () =>
          reject(new UserError(`The connection to ${base.origin} broke. Try it again.`))
        );
        pipeline(createReadStream(file), asked).catch(() => {});
      });
    }
  };
}

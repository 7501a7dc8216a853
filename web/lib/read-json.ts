/** Bodies of requests as text or JSON, up to a size: what is larger is told to be so before it fills the memory. */
import { UserError } from '$server/decode/user-error.ts';

/** Most bytes, by what is sent. */
const MOST = {
  request: 1e6,
  recipe: 8e6,
  /** A watermark's picture comes along. */
  deliverable: 8e6,
  deliverables: 32e6,
  profiles: 128e6,
  look: 33e6
};

/** The rest of the body is not read to its end: the connection ends with the answer. */
export class TooLarge extends UserError {}

export async function readText(request: Request, what: keyof typeof MOST = 'request'): Promise<string> {
  const most = MOST[what];
  const tooLarge = (): TooLarge =>
    new TooLarge(`This ${what} is too large: at most ${most / 1e6} MB are taken.`);
  // The length that a request claims need not be true.
  const claimed = Number(request.headers.get('content-length') ?? 0);
  const parts: Uint8Array[] = [];
  let bytes = 0;
  for await (const part of (request.body ?? []) as AsyncIterable<Uint8Array>) {
    bytes += part.length;
    // A little more is read and dropped: whoever is still sending does not hear an answer.
    if (bytes > 2 * most) break;
    if (bytes > most || claimed > most) parts.length = 0;
    else parts.push(part);
  }
  if (bytes > most || claimed > most) throw tooLarge();
  return Buffer.concat(parts).toString('utf8');
}

export const readJson = async (request: Request, what?: keyof typeof MOST): Promise<unknown> =>
  JSON.parse(await readText(request, what)) as unknown;

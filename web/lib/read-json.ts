/** Bodies of requests as bytes, text or JSON, up to a size: what is larger is told to be so before it fills the memory. */
import { isPlain } from '$server/documents/plain-text.ts';
import { UserError } from '$server/user-error.ts';

/** Most bytes, by what is sent. */
const MOST = {
  request: 1e6,
  recipe: 8e6,
  /** Skies come along. */
  'recipe file': 64e6,
  /** A watermark's picture comes along. */
  deliverable: 8e6,
  deliverables: 32e6,
  'house settings': 32e6,
  profiles: 128e6,
  look: 33e6,
  sky: 128e6
};

/** The request itself is at fault, not what it asks for. */
export class BadRequest extends UserError {}

/** The rest of the body is not read to its end: the connection ends with the answer. */
export class TooLarge extends UserError {}

export async function readBytes(request: Request, what: keyof typeof MOST): Promise<Buffer> {
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
  return Buffer.concat(parts);
}

export const readText = async (request: Request, what: keyof typeof MOST = 'request'): Promise<string> =>
  (await readBytes(request, what)).toString('utf8');

/** The JSON document that a request carries: an object or a list. Throws a BadRequest where it is something else. */
export async function readJson(request: Request, what?: keyof typeof MOST): Promise<object> {
  const text = await readText(request, what);
  let value: unknown;
  try {
    value = JSON.parse(text);
  } catch {
    throw new BadRequest('The request is not JSON.');
  }
  if (typeof value !== 'object' || value === null)
    throw new BadRequest('The request is to be a JSON object or list.');
  if (!isPlain(value))
    throw new BadRequest('The request holds characters that are no text. Type the text anew and try again.');
  return value;
}

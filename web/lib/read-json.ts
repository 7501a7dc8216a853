/** Bodies of requests as JSON, up to a size: what is larger is told to be so before it fills the memory. */
import { UserError } from '$server/decode/user-error.ts';

/** Most bytes, by what is sent. */
const MOST = {
  request: 1e6,
  recipe: 8e6,
  /** A watermark's picture comes along. */
  deliverable: 8e6,
  deliverables: 32e6,
  profiles: 128e6
};

/** The rest of the body is not read: the connection ends with the answer. */
export class TooLarge extends UserError {}

export async function readJson(request: Request, what: keyof typeof MOST = 'request'): Promise<unknown> {
  const most = MOST[what];
  const tooLarge = (): TooLarge =>
    new TooLarge(`This ${what} is too large: at most ${most / 1e6} MB are taken.`);
  if (Number(request.headers.get('content-length') ?? 0) > most) throw tooLarge();
  const parts: Uint8Array[] = [];
  let bytes = 0;
  // The length that a request claims need not be true.
  for await (const part of (request.body ?? []) as AsyncIterable<Uint8Array>) {
    bytes += part.length;
    if (bytes > most) throw tooLarge();
    parts.push(part);
  }
  return JSON.parse(Buffer.concat(parts).toString('utf8')) as unknown;
}

/** Answers of the server routes: JSON, and errors in words with a fitting status. */
import { json } from '@sveltejs/kit';
import { BadRequest, TooLarge } from './read-json.ts';
import { AWAY, isDatabaseAway } from '$server/database/away.ts';
import { UUID } from '$server/database/uuid.ts';
import { UserError } from '$server/user-error.ts';

/** Runs a route's work; what is meant for the user becomes a 422 with its message. */
export async function answer(work: () => Promise<Response>): Promise<Response> {
  try {
    return await work();
  } catch (error) {
    if (error instanceof TooLarge)
      return json({ error: error.message }, { status: 413, headers: { connection: 'close' } });
    if (error instanceof UserError)
      return json({ error: error.message, field: error.field }, { status: 422 });
    if (error instanceof BadRequest) return json({ error: error.message }, { status: 400 });
    if (isDatabaseAway(error)) return json({ error: AWAY }, { status: 503 });
    console.error(error);
    return json(
      { error: 'Something went wrong in Line True. Nothing was changed; try again.' },
      { status: 500 }
    );
  }
}

export const notFound = (what: string): Response =>
  json({ error: `This ${what} no longer exists.` }, { status: 404 });

/** True for text that can be an id: anything else would make the database complain. */
export const isId = (text: string): boolean => UUID.test(text);

/** A whole number in an address; null where it is something else. */
export const wholeNumber = (text: string): number | null => (/^\d{1,9}$/.test(text) ? Number(text) : null);

/**
 * Bytes that are made anew under the same address, after an update of Line True for instance: a browser asks whether those it
 * has are still the ones. `tag` tells one making from another.
 */
export async function taggedBytes(
  request: Request,
  tag: string,
  read: () => Promise<Uint8Array>,
  type = 'application/octet-stream'
): Promise<Response> {
  const headers = { etag: `"${tag}"`, 'cache-control': 'private, no-cache' };
  if (request.headers.get('if-none-match') === headers.etag)
    return new Response(null, { status: 304, headers });
  const bytes = await read();
  return new Response(bytes as Uint8Array<ArrayBuffer>, {
    headers: { ...headers, 'content-type': type, 'content-length': String(bytes.length) }
  });
}

/** Bytes that never change under their address. */
export function fixedBytes(bytes: Uint8Array, type: string, name?: string): Response {
  const headers: Record<string, string> = {
    'content-type': type,
    'content-length': String(bytes.length),
    'cache-control': 'private, max-age=31536000, immutable'
  };
  if (name) {
    const plain = name.replace(/[^\x20-\x7e]|["\\]/g, '_');
    headers['content-disposition'] =
      `attachment; filename="${plain}"; filename*=UTF-8''${encodeURIComponent(name)}`;
  }
  return new Response(bytes as Uint8Array<ArrayBuffer>, { headers });
}

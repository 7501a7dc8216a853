import { json } from '@sveltejs/kit';
import { answer, isId, notFound } from '$lib/answer.ts';
import { getContext } from '$server/app.ts';
import { MOST_BYTES } from '$server/decode/decode-file.ts';
import { UserError } from '$server/decode/user-error.ts';
import { addFrame } from '$server/frames/add-frame.ts';
import type { RequestHandler } from './$types';

/** Takes one file as the plain body, its name in the query. */
export const POST: RequestHandler = ({ params, request, url }) =>
  answer(async () => {
    if (!isId(params.job)) return notFound('job');
    const length = Number(request.headers.get('content-length') ?? NaN);
    const expected = Number.isFinite(length) ? length : null;
    if (expected !== null && expected > MOST_BYTES) {
      throw new UserError(
        `This file is ${Math.round(expected / 1048576)} MB; the largest that can be opened is 512 MB.`
      );
    }
    if (!request.body) throw new UserError('This file is empty. Copy it from the card again.');
    const body = request.body as unknown as AsyncIterable<Uint8Array>;
    const added = await addFrame(
      await getContext(),
      params.job,
      url.searchParams.get('name') ?? '',
      body,
      expected
    );
    return json(added, { status: added.known ? 200 : 201 });
  });

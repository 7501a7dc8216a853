import { json } from '@sveltejs/kit';
import { answer } from '$lib/answer.ts';
import { getContext } from '$server/app.ts';
import { receiveArchive } from '$server/archive/take-in.ts';
import { UserError } from '$server/user-error.ts';
import type { RequestHandler } from './$types';

/** Takes a job archive as the plain body; answers the job that it became. */
export const POST: RequestHandler = ({ request }) =>
  answer(async () => {
    const length = Number(request.headers.get('content-length') ?? NaN);
    if (!request.body) throw new UserError('This file is empty. Choose the archive of a job.');
    const body = request.body as unknown as AsyncIterable<Uint8Array>;
    const taken = await receiveArchive(await getContext(), body, Number.isFinite(length) ? length : null);
    return json(taken, { status: 201 });
  });

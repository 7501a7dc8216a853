import { json } from '@sveltejs/kit';
import { answer, isId, notFound } from '$lib/answer.ts';
import { validIds } from '$lib/frame-ids.ts';
import { readJson } from '$lib/read-json.ts';
import { getContext } from '$server/app.ts';
import { lossOf } from '$server/jobs/remove-job.ts';
import type { RequestHandler } from './$types';

/** What removing the job would lose. */
export const GET: RequestHandler = ({ params }) =>
  answer(async () => {
    if (!isId(params.job)) return notFound('job');
    return json(await lossOf(await getContext(), params.job, null));
  });

/** The same of frames of it, named in the body: hundreds of ids are too long for an address. */
export const POST: RequestHandler = ({ params, request }) =>
  answer(async () => {
    if (!isId(params.job)) return notFound('job');
    const { ids } = validIds(await readJson(request));
    return json(await lossOf(await getContext(), params.job, ids));
  });

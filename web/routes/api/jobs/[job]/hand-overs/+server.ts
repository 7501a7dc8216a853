import { json } from '@sveltejs/kit';
import { answer, isId, notFound } from '$lib/answer.ts';
import { readJson } from '$lib/read-json.ts';
import { getContext } from '$server/app.ts';
import { handOver, handOversOfJob, validHandOver } from '$server/hand-over/hand-overs.ts';
import type { RequestHandler } from './$types';

/** Where the job's frames lie that were handed over, and how each stands. */
export const GET: RequestHandler = ({ params }) =>
  answer(async () =>
    isId(params.job) ? json(await handOversOfJob(await getContext(), params.job)) : notFound('job')
  );

/** Hands frames over to another program as they stand. */
export const POST: RequestHandler = ({ params, request }) =>
  answer(async () => {
    if (!isId(params.job)) return notFound('job');
    const { ids, settings } = validHandOver(await readJson(request));
    return json({ ids: await handOver(await getContext(), params.job, ids, settings) }, { status: 202 });
  });

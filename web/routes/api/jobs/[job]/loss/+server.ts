import { json } from '@sveltejs/kit';
import { answer, isId, notFound } from '$lib/answer.ts';
import { getContext } from '$server/app.ts';
import { lossOf } from '$server/jobs/remove-job.ts';
import type { RequestHandler } from './$types';

/** What removing the job would lose, or frames of it that are named ("?frames=id,id"). */
export const GET: RequestHandler = ({ params, url }) =>
  answer(async () => {
    if (!isId(params.job)) return notFound('job');
    const frames = url.searchParams.get('frames')?.split(',').filter(isId) ?? null;
    return json(await lossOf(await getContext(), params.job, frames));
  });

import { json } from '@sveltejs/kit';
import { answer, isId, notFound } from '$lib/answer.ts';
import { readJson } from '$lib/read-json.ts';
import { getContext } from '$server/app.ts';
import { framesOfJob } from '$server/frames/frame-row.ts';
import { changeJob, jobById, validJobChange } from '$server/jobs/jobs.ts';
import { removeJob } from '$server/jobs/remove-job.ts';
import type { RequestHandler } from './$types';

export const GET: RequestHandler = ({ params }) =>
  answer(async () => {
    const context = await getContext();
    const job = isId(params.job) ? await jobById(context, params.job) : null;
    if (!job) return notFound('job');
    return json({ job, frames: await framesOfJob(context, job.id) });
  });

export const PATCH: RequestHandler = ({ params, request }) =>
  answer(async () => {
    if (!isId(params.job)) return notFound('job');
    await changeJob(await getContext(), params.job, validJobChange(await readJson(request)));
    return json({});
  });

/** Removes the job with its frames; delivered files stay. Answers the bytes that it gave back. */
export const DELETE: RequestHandler = ({ params }) =>
  answer(async () => {
    if (!isId(params.job)) return notFound('job');
    return json({ bytes: await removeJob(await getContext(), params.job) });
  });

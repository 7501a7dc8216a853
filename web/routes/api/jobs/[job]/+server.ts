import { json } from '@sveltejs/kit';
import { answer, isId, notFound } from '$lib/answer.ts';
import { getApp } from '$server/app.ts';
import { framesOfJob } from '$server/frames/frame-row.ts';
import { changeJob, jobById, validJobChange } from '$server/jobs/jobs.ts';
import type { RequestHandler } from './$types';

export const GET: RequestHandler = ({ params }) =>
  answer(async () => {
    const app = await getApp();
    const job = isId(params.job) ? await jobById(app, params.job) : null;
    if (!job) return notFound('job');
    return json({ job, frames: await framesOfJob(app, job.id) });
  });

export const PATCH: RequestHandler = ({ params, request }) =>
  answer(async () => {
    if (!isId(params.job)) return notFound('job');
    await changeJob(await getApp(), params.job, validJobChange(await request.json()));
    return json({});
  });

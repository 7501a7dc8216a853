import { json } from '@sveltejs/kit';
import { answer } from '$lib/answer.ts';
import { getApp } from '$server/app.ts';
import { createJob, listJobs, validJob } from '$server/jobs/jobs.ts';
import type { RequestHandler } from './$types';

export const GET: RequestHandler = () => answer(async () => json(await listJobs(await getApp())));

export const POST: RequestHandler = ({ request }) =>
  answer(async () => {
    const id = await createJob(await getApp(), validJob(await request.json()));
    return json({ id }, { status: 201 });
  });

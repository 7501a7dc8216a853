import { json } from '@sveltejs/kit';
import { answer } from '$lib/answer.ts';
import { readJson } from '$lib/read-json.ts';
import { getContext } from '$server/app.ts';
import { createJob, listJobs, validJob } from '$server/jobs/jobs.ts';
import type { RequestHandler } from './$types';

export const GET: RequestHandler = () => answer(async () => json(await listJobs(await getContext())));

export const POST: RequestHandler = ({ request }) =>
  answer(async () => {
    const id = await createJob(await getContext(), validJob(await readJson(request)));
    return json({ id }, { status: 201 });
  });

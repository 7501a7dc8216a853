import { error } from '@sveltejs/kit';
import { isId } from '$lib/answer.ts';
import { getApp } from '$server/app.ts';
import { allProfiles, framesOfJob } from '$server/frames/frame-row.ts';
import { jobById } from '$server/jobs/jobs.ts';
import type { PageServerLoad } from './$types';

export const load: PageServerLoad = async ({ params }) => {
  const app = await getApp();
  const job = isId(params.job) ? await jobById(app, params.job) : null;
  if (!job) error(404, 'This job no longer exists.');
  return { job, frames: await framesOfJob(app, job.id), profiles: await allProfiles(app) };
};

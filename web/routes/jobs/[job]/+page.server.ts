import { error } from '@sveltejs/kit';
import { isId } from '$lib/answer.ts';
import { getContext } from '$server/app.ts';
import { frameCards } from '$server/set/frame-card.ts';
import { jobById } from '$server/jobs/jobs.ts';
import type { PageServerLoad } from './$types';

export const load: PageServerLoad = async ({ params }) => {
  const context = await getContext();
  const job = isId(params.job) ? await jobById(context, params.job) : null;
  if (!job) error(404, 'This job no longer exists.');
  return { job, cards: await frameCards(context, job.id) };
};

import { getContext } from '$server/app.ts';
import { listJobs } from '$server/jobs/jobs.ts';
import { demoProgress } from '$server/start/demo-progress.ts';
import type { PageServerLoad } from './$types';

export const load: PageServerLoad = async () => {
  const context = await getContext();
  return { jobs: await listJobs(context), demo: demoProgress(context.data) };
};

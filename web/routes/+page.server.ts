import { getContext } from '$server/app.ts';
import { listJobs } from '$server/jobs/jobs.ts';
import type { PageServerLoad } from './$types';

export const load: PageServerLoad = async () => ({ jobs: await listJobs(await getContext()) });

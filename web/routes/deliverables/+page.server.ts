import { isId } from '$lib/answer.ts';
import { getApp } from '$server/app.ts';
import { listDeliverables } from '$server/deliveries/deliverables.ts';
import { jobById } from '$server/jobs/jobs.ts';
import type { PageServerLoad } from './$types';

export const load: PageServerLoad = async ({ url }) => {
  const app = await getApp();
  const id = url.searchParams.get('job') ?? '';
  return { deliverables: await listDeliverables(app), job: isId(id) ? await jobById(app, id) : null };
};

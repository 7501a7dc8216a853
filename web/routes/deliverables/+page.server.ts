import { isId } from '$lib/answer.ts';
import { getContext } from '$server/app.ts';
import { listDeliverables } from '$server/deliveries/deliverables.ts';
import { jobById } from '$server/jobs/jobs.ts';
import type { PageServerLoad } from './$types';

export const load: PageServerLoad = async ({ url }) => {
  const context = await getContext();
  const id = url.searchParams.get('job') ?? '';
  return { deliverables: await listDeliverables(context), job: isId(id) ? await jobById(context, id) : null };
};

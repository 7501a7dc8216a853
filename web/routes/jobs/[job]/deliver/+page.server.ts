import { join } from 'node:path';
import { error } from '@sveltejs/kit';
import { isId } from '$lib/answer.ts';
import { completeRecipe } from '$core/recipe/recipe.ts';
import { getContext } from '$server/app.ts';
import { listDeliverables } from '$server/deliveries/deliverables.ts';
import { deliveriesOfJob } from '$server/deliveries/deliveries.ts';
import { folderName } from '$server/deliveries/delivery-folder.ts';
import { framesOfJob } from '$server/frames/frame-row.ts';
import { jobById } from '$server/jobs/jobs.ts';
import type { PageServerLoad } from './$types';

export const load: PageServerLoad = async ({ params }) => {
  const context = await getContext();
  const job = isId(params.job) ? await jobById(context, params.job) : null;
  if (!job) error(404, 'This job no longer exists.');
  const frames = (await framesOfJob(context, job.id))
    .filter(({ state }) => state === 'ready')
    .map(({ id, name, room, version, recipe }) => {
      const { crop } = completeRecipe(recipe);
      return { id, name, room, version, ratio: crop.enabled ? crop.ratio : 'original' };
    });
  return {
    job,
    frames,
    deliverables: await listDeliverables(context),
    deliveries: await deliveriesOfJob(context, job.id),
    folder: join(context.deliveries, folderName(job))
  };
};

import { join } from 'node:path';
import { error } from '@sveltejs/kit';
import { isId } from '$lib/answer.ts';
import { completeRecipe } from '$core/recipe/recipe.ts';
import { ratioInHand } from '$core/steps/crop/step.ts';
import { getContext } from '$server/app.ts';
import { listDeliverables } from '$server/deliveries/deliverables.ts';
import { deliveriesOfJob } from '$server/deliveries/deliveries.ts';
import { folderName } from '$server/deliveries/delivery-folder.ts';
import { framesOfJob } from '$server/frames/frame-row.ts';
import { openChooser } from '$server/lenses/lens-choice.ts';
import { revisionsForDelivery } from '$server/recipes/revisions.ts';
import { lineReadings } from '$server/set/line-readings.ts';
import { notTrue } from '$server/set/not-true.ts';
import { jobById } from '$server/jobs/jobs.ts';
import type { PageServerLoad } from './$types';

export const load: PageServerLoad = async ({ params }) => {
  const context = await getContext();
  const job = isId(params.job) ? await jobById(context, params.job) : null;
  if (!job) error(404, 'This job no longer exists.');
  const chooser = await openChooser(context);
  const ready = (await framesOfJob(context, job.id)).filter(({ state }) => state === 'ready');
  const marked = await revisionsForDelivery(
    context,
    ready.map(({ id }) => id)
  );
  const frames = await Promise.all(
    ready.map(async (asItStands) => {
      const revision = marked.get(asItStands.id);
      const frame = { ...asItStands, recipe: revision?.recipe ?? asItStands.recipe };
      const { id, name, room, version, recipe } = frame;
      return {
        id,
        name,
        room,
        version,
        /** The revision that is delivered; null: as it stands. */
        revision: revision?.letter ?? null,
        ratio: ratioInHand(completeRecipe(recipe).crop),
        off: notTrue(await lineReadings(context, frame, chooser), recipe)
      };
    })
  );
  return {
    job,
    frames,
    deliverables: await listDeliverables(context),
    deliveries: await deliveriesOfJob(context, job.id),
    folder: join(context.deliveries, folderName(job))
  };
};

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
      const { id, name, room, version } = asItStands;
      const revisions = marked.get(id) ?? [];
      const recipes = revisions.length > 0 ? revisions.map(({ recipe }) => recipe) : [asItStands.recipe];
      const found = await Promise.all(
        recipes.map(async (recipe) =>
          notTrue(await lineReadings(context, { ...asItStands, recipe }, chooser), recipe)
        )
      );
      return {
        id,
        name,
        room,
        version,
        /** Letters of the revisions that are delivered; null: as it stands. */
        revision: revisions.map(({ letter }) => letter).join(', ') || null,
        ratio: ratioInHand(completeRecipe(recipes[0]).crop),
        off: [...new Set(found.flat())]
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

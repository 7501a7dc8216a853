import { error } from '@sveltejs/kit';
import { exposureOf } from '$core/optics/bracket.ts';
import { isId } from '$lib/answer.ts';
import { getContext } from '$server/app.ts';
import { frameById, framesOfJob } from '$server/frames/frame-row.ts';
import { partnersOf } from '$server/hand-over/partners.ts';
import { choiceFor } from '$server/lenses/lens-choice.ts';
import { jobById } from '$server/jobs/jobs.ts';
import type { PageServerLoad } from './$types';

export const load: PageServerLoad = async ({ params }) => {
  const context = await getContext();
  const frame = isId(params.frame) ? await frameById(context, params.frame) : null;
  if (!frame) error(404, 'This frame no longer exists.');
  const job = await jobById(context, frame.job_id);
  const frames = await framesOfJob(context, frame.job_id);
  const ready = frames
    .filter((other) => other.state === 'ready')
    .map(({ id, name, facts }) => ({
      id,
      name,
      lens: facts?.lens ?? null,
      focalLength: facts?.focalLength ?? null,
      taken: facts?.taken ?? null,
      exposure: facts && exposureOf(facts)
    }));
  const choice = frame.facts ? await choiceFor(context, frame.facts, frame.recipe.lens?.profile) : null;
  return { frame, job: job!, ready, choice, partners: await partnersOf(context, frame.id) };
};

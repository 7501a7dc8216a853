import { error } from '@sveltejs/kit';
import { isId } from '$lib/answer.ts';
import { getApp } from '$server/app.ts';
import { plumbReading } from '$server/frames/plumb-reading.ts';
import { framesOfJob } from '$server/frames/frame-row.ts';
import { openChooser } from '$server/lenses/lens-choice.ts';
import { jobById } from '$server/jobs/jobs.ts';
import type { PageServerLoad } from './$types';

/** Verticals further off than this, in degrees, want a look. */
const WANTS_LOOK = 0.2;

export const load: PageServerLoad = async ({ params }) => {
  const app = await getApp();
  const job = isId(params.job) ? await jobById(app, params.job) : null;
  if (!job) error(404, 'This job no longer exists.');
  const frames = await framesOfJob(app, job.id);
  const chooser = await openChooser(app);
  /** How each frame has its lens corrected, in a word or two; null where no profile is known. */
  const lenses: Record<string, string | null> = {};
  for (const { id, facts, recipe } of frames) {
    if (!facts) continue;
    const named = recipe.lens?.profile ?? 'auto';
    const { auto, remembered } = named === 'auto' ? chooser.rank(facts) : { auto: null, remembered: false };
    if (recipe.lens?.solved) lenses[id] = 'straightened by its edges';
    else if (auto) lenses[id] = remembered ? 'profile kept for this lens' : 'lens profile';
    else if (named === 'none') lenses[id] = 'lens left as it is';
    else if (named === 'auto' || named === 'file')
      lenses[id] = facts.corrections ? 'file’s own corrections' : null;
    else lenses[id] = 'profile chosen';
  }
  /** Plumb readings in degrees, of frames with plumb lines. */
  const plumb: Record<string, number | null> = {};
  for (const frame of frames) plumb[frame.id] = await plumbReading(frame, chooser);
  /** Why a frame wants a look before it goes out. */
  const look: Record<string, string> = {};
  for (const { id, recipe, lines_said: said } of frames) {
    if (said && !said.ok) look[id] = said.said;
    else if ((plumb[id] ?? 0) > WANTS_LOOK && !recipe.lines?.holdBackPitch && !recipe.lines?.holdBackRoll)
      look[id] = `Its verticals are off by ${plumb[id]!.toFixed(2)}°.`;
  }
  return { job, frames, lenses, plumb, look };
};

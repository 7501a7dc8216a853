import { json } from '@sveltejs/kit';
import { TRUE_UP_MODES } from '$core/steps/lines/solve-rotation.ts';
import { answer, isId, notFound } from '$lib/answer.ts';
import { getContext } from '$server/app.ts';
import { UserError } from '$server/user-error.ts';
import { trueUpFrame } from '$server/set/true-up-frame.ts';
import type { RequestHandler } from './$types';

/** Trues the frame up by itself: the verticals, or what ?mode says. */
export const POST: RequestHandler = ({ params, url }) =>
  answer(async () => {
    if (!isId(params.frame)) return notFound('frame');
    const asked = url.searchParams.get('mode') ?? 'verticals';
    const mode = TRUE_UP_MODES.find((known) => known === asked);
    if (!mode) throw new UserError(`There is no mode "${asked}": ${TRUE_UP_MODES.join(', ')}.`);
    return json(await trueUpFrame(await getContext(), params.frame, mode));
  });

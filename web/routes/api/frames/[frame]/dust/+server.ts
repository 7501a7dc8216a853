import { json } from '@sveltejs/kit';
import { answer, isId, notFound } from '$lib/answer.ts';
import { getContext } from '$server/app.ts';
import { mendDust } from '$server/set/mend-dust.ts';
import type { RequestHandler } from './$types';

/** Mends this frame's dust on the other frames of its camera in the job, where it shows. */
export const POST: RequestHandler = ({ params }) =>
  answer(async () => {
    if (!isId(params.frame)) return notFound('frame');
    return json(await mendDust(await getContext(), params.frame));
  });

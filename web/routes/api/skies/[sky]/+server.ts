import { json } from '@sveltejs/kit';
import { answer, fixedBytes, notFound } from '$lib/answer.ts';
import { getContext } from '$server/app.ts';
import { removeSky, storedSky } from '$server/skies/skies.ts';
import type { RequestHandler } from './$types';

/** A sky as stages are given it. */
export const GET: RequestHandler = ({ params }) =>
  answer(async () => {
    const bytes = await storedSky(await getContext(), params.sky);
    return bytes ? fixedBytes(bytes, 'application/octet-stream') : notFound('sky');
  });

export const DELETE: RequestHandler = ({ params }) =>
  answer(async () => ((await removeSky(await getContext(), params.sky)) ? json({}) : notFound('sky')));

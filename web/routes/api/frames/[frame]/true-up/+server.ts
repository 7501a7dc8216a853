import { json } from '@sveltejs/kit';
import { answer, isId, notFound } from '$lib/answer.ts';
import { getApp } from '$server/app.ts';
import { trueUpFrame } from '$server/frames/true-up-frame.ts';
import type { RequestHandler } from './$types';

/** Trues the frame up by itself: the verticals, or with ?mode=front a whole front. */
export const POST: RequestHandler = ({ params, url }) =>
  answer(async () => {
    if (!isId(params.frame)) return notFound('frame');
    const mode = url.searchParams.get('mode') === 'front' ? 'front' : 'verticals';
    return json(await trueUpFrame(await getApp(), params.frame, mode));
  });

import { json } from '@sveltejs/kit';
import { answer, isId, notFound } from '$lib/answer.ts';
import { getContext } from '$server/app.ts';
import { measureFrame } from '$server/lenses/measure-lens.ts';
import type { RequestHandler } from './$types';

/** Looks at the frame as a chart or as a flat frame. */
export const POST: RequestHandler = ({ params }) =>
  answer(async () => {
    const { frame, kind } = params;
    if (!isId(frame) || (kind !== 'chart' && kind !== 'flat')) return notFound('frame');
    return json(await measureFrame(await getContext(), frame, kind));
  });

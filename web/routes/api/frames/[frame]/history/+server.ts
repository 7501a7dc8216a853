import { json } from '@sveltejs/kit';
import { answer, isId, notFound } from '$lib/answer.ts';
import { getContext } from '$server/app.ts';
import { historyOf } from '$server/recipes/history.ts';
import type { RequestHandler } from './$types';

/** The states that the frame's recipe went through. */
export const GET: RequestHandler = ({ params }) =>
  answer(async () =>
    isId(params.frame) ? json(await historyOf(await getContext(), params.frame)) : notFound('frame')
  );

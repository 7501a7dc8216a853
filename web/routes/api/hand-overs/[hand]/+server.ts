import { json } from '@sveltejs/kit';
import { answer, isId, notFound } from '$lib/answer.ts';
import { getContext } from '$server/app.ts';
import { forgetHandOver } from '$server/hand-over/hand-overs.ts';
import type { RequestHandler } from './$types';

/** Waits for the file no longer; it stays in its folder. */
export const DELETE: RequestHandler = ({ params }) =>
  answer(async () =>
    isId(params.hand) && (await forgetHandOver(await getContext(), params.hand))
      ? json({})
      : notFound('hand-over')
  );

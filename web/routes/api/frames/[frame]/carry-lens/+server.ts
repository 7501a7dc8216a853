import { json } from '@sveltejs/kit';
import { answer, isId, notFound } from '$lib/answer.ts';
import { getApp } from '$server/app.ts';
import { carryLens } from '$server/lenses/apply-lens.ts';
import { validator } from '$server/recipe/validate.ts';
import type { RequestHandler } from './$types';

const validTargets = validator<{ to: string[] }>(
  {
    $id: 'carry-lens',
    type: 'object',
    additionalProperties: false,
    required: ['to'],
    properties: { to: { type: 'array', maxItems: 5000, items: { type: 'string' } } }
  },
  'list of frames'
);

/** Carries the frame's lens settings over to others of its job. */
export const POST: RequestHandler = ({ params, request }) =>
  answer(async () => {
    if (!isId(params.frame)) return notFound('frame');
    const { to } = validTargets(await request.json());
    return json({ frames: await carryLens(await getApp(), params.frame, to.filter(isId)) });
  });

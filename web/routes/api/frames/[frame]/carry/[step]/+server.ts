import { json } from '@sveltejs/kit';
import { answer, isId, notFound } from '$lib/answer.ts';
import { getApp } from '$server/app.ts';
import { carryLines } from '$server/frames/carry-lines.ts';
import { carryLens } from '$server/lenses/apply-lens.ts';
import { validator } from '$server/recipe/validate.ts';
import type { RequestHandler } from './$types';

const validTargets = validator<{ to: string[] }>(
  {
    $id: 'carry',
    type: 'object',
    additionalProperties: false,
    required: ['to'],
    properties: { to: { type: 'array', maxItems: 5000, items: { type: 'string' } } }
  },
  'list of frames'
);

/** Carries a step of the frame (lens or lines) over to others of its job. */
export const POST: RequestHandler = ({ params, request }) =>
  answer(async () => {
    if (!isId(params.frame)) return notFound('frame');
    const carry = { lens: carryLens, lines: carryLines }[params.step];
    if (!carry) return notFound('step');
    const { to } = validTargets(await request.json());
    return json({ frames: await carry(await getApp(), params.frame, to.filter(isId)) });
  });

import { json } from '@sveltejs/kit';
import { stepByName } from '$core/recipe/steps.ts';
import { answer, isId, notFound } from '$lib/answer.ts';
import { readJson } from '$lib/read-json.ts';
import { getContext } from '$server/app.ts';
import { carryStep } from '$server/set/carry-step.ts';
import { validator } from '$server/documents/validator.ts';
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

/** Carries a step of the frame over to others of its job. */
export const POST: RequestHandler = ({ params, request }) =>
  answer(async () => {
    if (!isId(params.frame)) return notFound('frame');
    const step = stepByName(params.step);
    if (!step) return notFound('step');
    const { to } = validTargets(await readJson(request));
    return json(await carryStep(await getContext(), step.name, params.frame, to.filter(isId)));
  });

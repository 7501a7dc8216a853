import { json } from '@sveltejs/kit';
import { CARRIED_PARTS, type CarriedPart } from '$core/recipe/carry-over.ts';
import { answer, isId, notFound } from '$lib/answer.ts';
import { readJson } from '$lib/read-json.ts';
import { getContext } from '$server/app.ts';
import { carrySteps } from '$server/set/carry-steps.ts';
import { validator } from '$server/documents/validator.ts';
import type { RequestHandler } from './$types';

const validTargets = validator<{ steps: CarriedPart[]; to: string[] }>(
  {
    $id: 'carry',
    type: 'object',
    additionalProperties: false,
    required: ['steps', 'to'],
    properties: {
      steps: { type: 'array', items: { enum: CARRIED_PARTS } },
      to: { type: 'array', maxItems: 5000, items: { type: 'string' } }
    }
  },
  'list of steps and frames'
);

/** Carries steps of the frame, or groups of their settings, over to others of its job. */
export const POST: RequestHandler = ({ params, request }) =>
  answer(async () => {
    if (!isId(params.frame)) return notFound('frame');
    const { steps, to } = validTargets(await readJson(request));
    return json(await carrySteps(await getContext(), steps, params.frame, to.filter(isId)));
  });

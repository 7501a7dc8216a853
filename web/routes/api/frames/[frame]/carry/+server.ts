import { json } from '@sveltejs/kit';
import { EVERY_STEP, type StepName } from '$core/recipe/steps.ts';
import { answer, isId, notFound } from '$lib/answer.ts';
import { readJson } from '$lib/read-json.ts';
import { getContext } from '$server/app.ts';
import { carrySteps } from '$server/set/carry-steps.ts';
import { validator } from '$server/documents/validator.ts';
import type { RequestHandler } from './$types';

const validTargets = validator<{ steps: StepName[]; to: string[] }>(
  {
    $id: 'carry',
    type: 'object',
    additionalProperties: false,
    required: ['steps', 'to'],
    properties: {
      steps: { type: 'array', items: { enum: EVERY_STEP.map(({ name }) => name) } },
      to: { type: 'array', maxItems: 5000, items: { type: 'string' } }
    }
  },
  'list of steps and frames'
);

/** Carries steps of the frame over to others of its job. */
export const POST: RequestHandler = ({ params, request }) =>
  answer(async () => {
    if (!isId(params.frame)) return notFound('frame');
    const { steps, to } = validTargets(await readJson(request));
    return json(await carrySteps(await getContext(), steps, params.frame, to.filter(isId)));
  });

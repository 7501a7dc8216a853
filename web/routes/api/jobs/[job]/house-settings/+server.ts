import { json } from '@sveltejs/kit';
import { houseAmount } from '$core/recipe/house-settings.ts';
import { answer, isId, notFound } from '$lib/answer.ts';
import { readJson } from '$lib/read-json.ts';
import { getContext } from '$server/app.ts';
import { validator } from '$server/documents/validator.ts';
import { applyHouseSettings } from '$server/recipes/house-settings.ts';
import type { RequestHandler } from './$types';

const validUse = validator<{ set: string; frames: string[]; amount: number }>(
  {
    $id: 'use-house-settings',
    type: 'object',
    additionalProperties: false,
    required: ['set', 'frames'],
    properties: {
      set: { type: 'string' },
      frames: { type: 'array', maxItems: 5000, items: { type: 'string' } },
      amount: houseAmount
    }
  },
  'request'
);

/** Lays a set over chosen frames of the job. */
export const POST: RequestHandler = ({ params, request }) =>
  answer(async () => {
    if (!isId(params.job)) return notFound('job');
    const { set, frames, amount = houseAmount.default } = validUse(await readJson(request));
    return json(
      await applyHouseSettings(await getContext(), params.job, { set, frames: frames.filter(isId), amount })
    );
  });

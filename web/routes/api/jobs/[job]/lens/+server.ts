import { json } from '@sveltejs/kit';
import { answer, isId, notFound } from '$lib/answer.ts';
import { readJson } from '$lib/read-json.ts';
import { getContext } from '$server/app.ts';
import { giveProfile } from '$server/lenses/apply-lens.ts';
import { validator } from '$server/documents/validator.ts';
import type { RequestHandler } from './$types';

const validGift = validator<{ frames: string[]; profile: string }>(
  {
    $id: 'give-profile',
    type: 'object',
    additionalProperties: false,
    required: ['frames', 'profile'],
    properties: {
      frames: { type: 'array', maxItems: 5000, items: { type: 'string' } },
      profile: { type: 'string', pattern: '^[a-z0-9-]{1,80}$' }
    }
  },
  'request'
);

/** Gives chosen frames of the job a lens profile. */
export const POST: RequestHandler = ({ params, request }) =>
  answer(async () => {
    if (!isId(params.job)) return notFound('job');
    const { frames, profile } = validGift(await readJson(request));
    return json(await giveProfile(await getContext(), params.job, frames.filter(isId), profile));
  });

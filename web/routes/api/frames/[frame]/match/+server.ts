import { json } from '@sveltejs/kit';
import { answer, isId, notFound } from '$lib/answer.ts';
import { readJson } from '$lib/read-json.ts';
import { getContext } from '$server/app.ts';
import { validator } from '$server/documents/validator.ts';
import { matchFrame } from '$server/set/match-frame.ts';
import type { RequestHandler } from './$types';

const validWanted = validator<{ like: string }>(
  {
    $id: 'match',
    type: 'object',
    additionalProperties: false,
    required: ['like'],
    properties: { like: { type: 'string' } }
  },
  'request'
);

/** Makes the frame come out as another of the same room does. */
export const POST: RequestHandler = ({ params, request }) =>
  answer(async () => {
    if (!isId(params.frame)) return notFound('frame');
    const { like } = validWanted(await readJson(request));
    if (!isId(like)) return notFound('frame');
    return json(await matchFrame(await getContext(), params.frame, like));
  });

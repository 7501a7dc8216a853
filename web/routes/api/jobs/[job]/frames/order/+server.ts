import { json } from '@sveltejs/kit';
import { answer, isId, notFound } from '$lib/answer.ts';
import { idsSchema } from '$server/database/uuid.ts';
import { readJson } from '$lib/read-json.ts';
import { getContext } from '$server/app.ts';
import { validator } from '$server/documents/validator.ts';
import { orderFrames } from '$server/frames/frame-row.ts';
import type { RequestHandler } from './$types';

const validOrder = validator<{ ids: string[] }>(
  {
    $id: 'frames-order',
    type: 'object',
    additionalProperties: false,
    required: ['ids'],
    properties: { ids: { ...idsSchema, minItems: 0, uniqueItems: true } }
  },
  'order'
);

/** Gives the frames their order by hand; with none, they are by name again. */
export const PUT: RequestHandler = ({ params, request }) =>
  answer(async () => {
    if (!isId(params.job)) return notFound('job');
    const { ids } = validOrder(await readJson(request));
    await orderFrames(await getContext(), params.job, ids);
    return json({});
  });

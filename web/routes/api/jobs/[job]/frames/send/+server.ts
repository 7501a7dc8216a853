import { json } from '@sveltejs/kit';
import { answer, isId, notFound } from '$lib/answer.ts';
import { idsSchema } from '$server/database/uuid.ts';
import { readJson } from '$lib/read-json.ts';
import { getContext } from '$server/app.ts';
import { validator } from '$server/documents/validator.ts';
import { sendFrames } from '$server/jobs/send-frames.ts';
import type { RequestHandler } from './$types';

const validSending = validator<{ ids: string[]; to: string; copies: boolean }>(
  {
    $id: 'frames-send',
    type: 'object',
    additionalProperties: false,
    required: ['ids', 'to', 'copies'],
    properties: { ids: idsSchema, to: { type: 'string' }, copies: { type: 'boolean' } }
  },
  'frames'
);

/** Moves or copies frames to another job. */
export const POST: RequestHandler = ({ params, request }) =>
  answer(async () => {
    if (!isId(params.job)) return notFound('job');
    const sending = validSending(await readJson(request));
    if (!isId(sending.to)) return notFound('job');
    return json(await sendFrames(await getContext(), params.job, sending));
  });

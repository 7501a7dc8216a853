import { json } from '@sveltejs/kit';
import { answer, isId, notFound } from '$lib/answer.ts';
import { readJson } from '$lib/read-json.ts';
import { getContext } from '$server/app.ts';
import { frameById, nameRoom, removeFrame } from '$server/frames/frame-row.ts';
import { validator } from '$server/recipes/validate.ts';
import type { RequestHandler } from './$types';

const validChange = validator<{ room: string }>(
  {
    $id: 'frame-change',
    type: 'object',
    additionalProperties: false,
    required: ['room'],
    properties: { room: { type: 'string', maxLength: 60 } }
  },
  'frame'
);

export const GET: RequestHandler = ({ params }) =>
  answer(async () => {
    const context = await getContext();
    const frame = isId(params.frame) ? await frameById(context, params.frame) : null;
    if (!frame) return notFound('frame');
    return json({ frame });
  });

/** Takes the frame out of its job. The original stays in the store. */
export const DELETE: RequestHandler = ({ params }) =>
  answer(async () => {
    if (isId(params.frame)) await removeFrame(await getContext(), params.frame);
    return json({});
  });

/** Says what the frame shows. */
export const PATCH: RequestHandler = ({ params, request }) =>
  answer(async () => {
    if (!isId(params.frame)) return notFound('frame');
    await nameRoom(await getContext(), params.frame, validChange(await readJson(request)).room);
    return json({});
  });

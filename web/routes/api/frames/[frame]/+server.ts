import { json } from '@sveltejs/kit';
import { answer, isId, notFound } from '$lib/answer.ts';
import { getApp } from '$server/app.ts';
import { frameById, nameRoom } from '$server/frames/frame-row.ts';
import { validator } from '$server/recipe/validate.ts';
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
    const app = await getApp();
    const frame = isId(params.frame) ? await frameById(app, params.frame) : null;
    if (!frame) return notFound('frame');
    return json({ frame });
  });

/** Takes the frame out of its job. The original stays in the store. */
export const DELETE: RequestHandler = ({ params }) =>
  answer(async () => {
    const app = await getApp();
    if (isId(params.frame)) await app.db.query('delete from frames where id = $1', [params.frame]);
    return json({});
  });

/** Says what the frame shows. */
export const PATCH: RequestHandler = ({ params, request }) =>
  answer(async () => {
    if (!isId(params.frame)) return notFound('frame');
    await nameRoom(await getApp(), params.frame, validChange(await request.json()).room);
    return json({});
  });

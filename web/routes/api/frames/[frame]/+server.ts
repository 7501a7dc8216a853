import { json } from '@sveltejs/kit';
import { answer, isId, notFound } from '$lib/answer.ts';
import { getApp } from '$server/app.ts';
import { frameById } from '$server/frames/frame-row.ts';
import type { RequestHandler } from './$types';

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

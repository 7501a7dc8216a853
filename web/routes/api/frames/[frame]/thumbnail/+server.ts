import { answer, fixedBytes, isId, notFound } from '$lib/answer.ts';
import { getApp } from '$server/app.ts';
import { frameById } from '$server/frames/frame-row.ts';
import { thumbnail } from '$server/frames/thumbnail.ts';
import type { RequestHandler } from './$types';

export const GET: RequestHandler = ({ params }) =>
  answer(async () => {
    const app = await getApp();
    const frame = isId(params.frame) ? await frameById(app, params.frame) : null;
    if (!frame || frame.state !== 'ready') return notFound('frame');
    return fixedBytes(await thumbnail(app, frame), 'image/jpeg');
  });

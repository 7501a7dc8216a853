import { answer, fixedBytes, isId, notFound } from '$lib/answer.ts';
import { getApp } from '$server/app.ts';
import { frameById } from '$server/frames/frame-row.ts';
import { asShotPicture, thumbnail } from '$server/frames/thumbnail.ts';
import type { RequestHandler } from './$types';

/** The frame by its recipe, small; or with ?shot as it was shot, larger. */
export const GET: RequestHandler = ({ params, url }) =>
  answer(async () => {
    const app = await getApp();
    const frame = isId(params.frame) ? await frameById(app, params.frame) : null;
    if (!frame || frame.state !== 'ready') return notFound('frame');
    const shot = url.searchParams.has('shot');
    return fixedBytes(await (shot ? asShotPicture(app, frame) : thumbnail(app, frame)), 'image/jpeg');
  });

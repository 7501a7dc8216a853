import { answer, fixedBytes, isId, notFound } from '$lib/answer.ts';
import { getContext } from '$server/app.ts';
import { frameById } from '$server/frames/frame-row.ts';
import { asShotPicture, thumbnail } from '$server/frames/thumbnail.ts';
import type { RequestHandler } from './$types';

/** The frame by its recipe, small; or with ?shot as it was shot, larger. */
export const GET: RequestHandler = ({ params, url }) =>
  answer(async () => {
    const context = await getContext();
    const frame = isId(params.frame) ? await frameById(context, params.frame) : null;
    if (!frame || frame.state !== 'ready') return notFound('frame');
    const shot = url.searchParams.has('shot');
    return fixedBytes(await (shot ? asShotPicture(context, frame) : thumbnail(context, frame)), 'image/jpeg');
  });

import { answer, fixedBytes, isId, notFound } from '$lib/answer.ts';
import { getContext } from '$server/app.ts';
import { frameById } from '$server/frames/frame-row.ts';
import { earlyPicture } from '$server/frames/early-picture.ts';
import { RENDITIONS } from '$core/settings/rendition.ts';
import { asShotPicture, largePicture, renditionPicture, thumbnail } from '$server/set/thumbnail.ts';
import type { RequestHandler } from './$types';

/** The frame by its recipe, small (until it is prepared, the picture that its file brings along); with ?large as large as a window; or with ?shot as it was shot, or by its recipe with ?rendition=N in that one, larger. */
export const GET: RequestHandler = ({ params, url }) =>
  answer(async () => {
    const context = await getContext();
    const frame = isId(params.frame) ? await frameById(context, params.frame) : null;
    const early = frame?.state === 'preparing' ? await earlyPicture(context, frame.sha256) : null;
    if (early) return fixedBytes(early, 'image/jpeg');
    if (!frame || frame.state !== 'ready') return notFound('frame');
    const wanted = RENDITIONS.find((each) => String(each) === url.searchParams.get('rendition'));
    if (wanted) return fixedBytes(await renditionPicture(context, frame, wanted), 'image/jpeg');
    const picture = url.searchParams.has('shot')
      ? asShotPicture
      : url.searchParams.has('large')
        ? largePicture
        : thumbnail;
    return fixedBytes(await picture(context, frame), 'image/jpeg');
  });

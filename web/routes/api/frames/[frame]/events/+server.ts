import { answer, isId, notFound } from '$lib/answer.ts';
import { eventStream } from '$lib/event-stream.ts';
import { getContext } from '$server/app.ts';
import { itemsOfFrame } from '$server/deliveries/deliveries.ts';
import { frameById } from '$server/frames/frame-row.ts';
import type { RequestHandler } from './$types';

/** The latest pictures made of the frame. */
export const GET: RequestHandler = ({ params }) =>
  answer(async () => {
    const context = await getContext();
    const { frame: id } = params;
    if (!isId(id) || !(await frameById(context, id))) return notFound('frame');
    return eventStream(context, {
      concerns: ({ delivery, frame }) => delivery !== undefined && (frame === undefined || frame === id),
      read: () => itemsOfFrame(context, id)
    });
  });

import { json } from '@sveltejs/kit';
import { answer, isId, notFound } from '$lib/answer.ts';
import { readJson } from '$lib/read-json.ts';
import { getContext } from '$server/app.ts';
import { soundDeliverable } from '$server/deliveries/deliverables.ts';
import { deliverOne, itemsOfFrame } from '$server/deliveries/deliveries.ts';
import type { RequestHandler } from './$types';

/** The latest pictures made of the frame. */
export const GET: RequestHandler = ({ params }) =>
  answer(async () =>
    isId(params.frame) ? json(await itemsOfFrame(await getContext(), params.frame)) : notFound('frame')
  );

/** Makes one picture of the frame as it stands, by the deliverable in the body: a delivery of one. */
export const POST: RequestHandler = ({ params, request }) =>
  answer(async () => {
    if (!isId(params.frame)) return notFound('frame');
    const deliverable = await soundDeliverable(await readJson(request, 'deliverable'));
    return json({ id: await deliverOne(await getContext(), params.frame, deliverable) }, { status: 202 });
  });

import { json } from '@sveltejs/kit';
import { answer, isId, notFound } from '$lib/answer.ts';
import { getApp } from '$server/app.ts';
import { changeDeliverable, removeDeliverable } from '$server/deliveries/deliverables.ts';
import type { RequestHandler } from './$types';

export const PUT: RequestHandler = ({ params, request }) =>
  answer(async () => {
    if (!isId(params.deliverable)) return notFound('deliverable');
    await changeDeliverable(await getApp(), params.deliverable, await request.json());
    return json({});
  });

export const DELETE: RequestHandler = ({ params }) =>
  answer(async () => {
    if (!isId(params.deliverable)) return notFound('deliverable');
    await removeDeliverable(await getApp(), params.deliverable);
    return json({});
  });

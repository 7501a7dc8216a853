import { json } from '@sveltejs/kit';
import { answer, isId, notFound } from '$lib/answer.ts';
import { readJson } from '$lib/read-json.ts';
import { getContext } from '$server/app.ts';
import { changeDeliverable, removeDeliverable } from '$server/deliveries/deliverables.ts';
import type { RequestHandler } from './$types';

export const PUT: RequestHandler = ({ params, request }) =>
  answer(async () => {
    if (!isId(params.deliverable)) return notFound('deliverable');
    await changeDeliverable(await getContext(), params.deliverable, await readJson(request, 'deliverable'));
    return json({});
  });

export const DELETE: RequestHandler = ({ params }) =>
  answer(async () => {
    if (!isId(params.deliverable)) return notFound('deliverable');
    await removeDeliverable(await getContext(), params.deliverable);
    return json({});
  });

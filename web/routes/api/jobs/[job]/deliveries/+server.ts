import { json } from '@sveltejs/kit';
import { answer, isId, notFound } from '$lib/answer.ts';
import { readJson } from '$lib/read-json.ts';
import { readPicks } from '$lib/delivery-picks.ts';
import { getContext } from '$server/app.ts';
import { deliveriesOfJob, startDelivery } from '$server/deliveries/deliveries.ts';
import type { RequestHandler } from './$types';

export const GET: RequestHandler = ({ params }) =>
  answer(async () =>
    isId(params.job) ? json(await deliveriesOfJob(await getContext(), params.job)) : notFound('job')
  );

export const POST: RequestHandler = ({ params, request }) =>
  answer(async () => {
    if (!isId(params.job)) return notFound('job');
    const id = await startDelivery(await getContext(), params.job, readPicks(await readJson(request)));
    return json({ id }, { status: 201 });
  });

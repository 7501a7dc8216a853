import { json } from '@sveltejs/kit';
import { answer, isId, notFound } from '$lib/answer.ts';
import { readJson } from '$lib/read-json.ts';
import { readPicks } from '$lib/delivery-picks.ts';
import { getContext } from '$server/app.ts';
import { planDelivery } from '$server/deliveries/deliveries.ts';
import type { RequestHandler } from './$types';

/** What a delivery would make, with an estimate of time and size. */
export const POST: RequestHandler = ({ params, request }) =>
  answer(async () =>
    isId(params.job)
      ? json(await planDelivery(await getContext(), params.job, readPicks(await readJson(request))))
      : notFound('job')
  );

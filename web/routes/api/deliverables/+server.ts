import { json } from '@sveltejs/kit';
import { answer } from '$lib/answer.ts';
import { readJson } from '$lib/read-json.ts';
import { getContext } from '$server/app.ts';
import { addDeliverable, listDeliverables } from '$server/deliveries/deliverables.ts';
import type { RequestHandler } from './$types';

export const GET: RequestHandler = () => answer(async () => json(await listDeliverables(await getContext())));

export const POST: RequestHandler = ({ request }) =>
  answer(async () =>
    json(
      { id: await addDeliverable(await getContext(), await readJson(request, 'deliverable')) },
      { status: 201 }
    )
  );

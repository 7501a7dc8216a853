import { json } from '@sveltejs/kit';
import { answer } from '$lib/answer.ts';
import { getApp } from '$server/app.ts';
import { addDeliverable, listDeliverables } from '$server/deliveries/deliverables.ts';
import type { RequestHandler } from './$types';

export const GET: RequestHandler = () => answer(async () => json(await listDeliverables(await getApp())));

export const POST: RequestHandler = ({ request }) =>
  answer(async () =>
    json({ id: await addDeliverable(await getApp(), await request.json()) }, { status: 201 })
  );

import { json } from '@sveltejs/kit';
import { answer, isId, notFound } from '$lib/answer.ts';
import { readJson } from '$lib/read-json.ts';
import { getContext } from '$server/app.ts';
import { type DeliveryAction, actOnDelivery, deliveryById, itemsOf } from '$server/deliveries/deliveries.ts';
import { validator } from '$server/documents/validator.ts';
import type { RequestHandler } from './$types';

const validAction = validator<{ action: DeliveryAction }>(
  {
    $id: 'delivery-action',
    type: 'object',
    additionalProperties: false,
    required: ['action'],
    properties: { action: { enum: ['pause', 'resume', 'cancel', 'retry'] } }
  },
  'action'
);

export const GET: RequestHandler = ({ params }) =>
  answer(async () => {
    const context = await getContext();
    const delivery = isId(params.delivery) ? await deliveryById(context, params.delivery) : null;
    return delivery ? json({ delivery, items: await itemsOf(context, delivery.id) }) : notFound('delivery');
  });

export const POST: RequestHandler = ({ params, request }) =>
  answer(async () => {
    if (!isId(params.delivery)) return notFound('delivery');
    const { action } = validAction(await readJson(request));
    await actOnDelivery(await getContext(), params.delivery, action);
    return json({});
  });

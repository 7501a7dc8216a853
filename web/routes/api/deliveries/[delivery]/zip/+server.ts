import { Readable } from 'node:stream';
import { answer, isId, notFound } from '$lib/answer.ts';
import { getContext } from '$server/app.ts';
import { deliveryById } from '$server/deliveries/deliveries.ts';
import { deliveryZip } from '$server/deliveries/delivery-files.ts';
import type { RequestHandler } from './$types';

export const GET: RequestHandler = ({ params }) =>
  answer(async () => {
    const context = await getContext();
    const delivery = isId(params.delivery) ? await deliveryById(context, params.delivery) : null;
    if (!delivery) return notFound('delivery');
    const zip = await deliveryZip(context, delivery);
    return new Response(Readable.toWeb(zip) as ReadableStream, {
      headers: {
        'content-type': 'application/zip',
        'content-disposition': `attachment; filename="delivery-${delivery.id.slice(0, 8)}.zip"`
      }
    });
  });

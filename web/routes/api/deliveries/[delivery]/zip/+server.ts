import { Readable } from 'node:stream';
import { answer, isId, notFound } from '$lib/answer.ts';
import { getApp } from '$server/app.ts';
import { deliveryById } from '$server/deliveries/deliveries.ts';
import { deliveryZip } from '$server/deliveries/delivery-files.ts';
import type { RequestHandler } from './$types';

export const GET: RequestHandler = ({ params }) =>
  answer(async () => {
    const app = await getApp();
    const delivery = isId(params.delivery) ? await deliveryById(app, params.delivery) : null;
    if (!delivery) return notFound('delivery');
    const zip = await deliveryZip(app, delivery);
    return new Response(Readable.toWeb(zip) as ReadableStream, {
      headers: {
        'content-type': 'application/zip',
        'content-disposition': `attachment; filename="delivery-${delivery.id.slice(0, 8)}.zip"`
      }
    });
  });

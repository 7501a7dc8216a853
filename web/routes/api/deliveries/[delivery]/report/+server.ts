import { answer, isId, notFound } from '$lib/answer.ts';
import { getApp } from '$server/app.ts';
import { deliveryById } from '$server/deliveries/deliveries.ts';
import { deliveryReport } from '$server/deliveries/delivery-files.ts';
import type { RequestHandler } from './$types';

export const GET: RequestHandler = ({ params }) =>
  answer(async () => {
    const app = await getApp();
    const delivery = isId(params.delivery) ? await deliveryById(app, params.delivery) : null;
    if (!delivery) return notFound('delivery');
    const pdf = await deliveryReport(app, delivery);
    return new Response(pdf as Uint8Array<ArrayBuffer>, {
      headers: { 'content-type': 'application/pdf', 'content-disposition': 'inline; filename="report.pdf"' }
    });
  });

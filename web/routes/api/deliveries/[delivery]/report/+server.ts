import { answer, isId, notFound } from '$lib/answer.ts';
import { getContext } from '$server/app.ts';
import { deliveryById } from '$server/deliveries/deliveries.ts';
import { deliveryReport } from '$server/deliveries/delivery-files.ts';
import type { RequestHandler } from './$types';

export const GET: RequestHandler = ({ params }) =>
  answer(async () => {
    const context = await getContext();
    const delivery = isId(params.delivery) ? await deliveryById(context, params.delivery) : null;
    if (!delivery) return notFound('delivery');
    const pdf = await deliveryReport(context, delivery);
    return new Response(pdf as Uint8Array<ArrayBuffer>, {
      headers: { 'content-type': 'application/pdf', 'content-disposition': 'inline; filename="report.pdf"' }
    });
  });

import { answer, isId, notFound } from '$lib/answer.ts';
import { getContext } from '$server/app.ts';
import { finishedItems, manifestCsv, manifestJson } from '$server/deliveries/manifest.ts';
import type { RequestHandler } from './$types';

/** The manifest as CSV, or with ?format=json as JSON. */
export const GET: RequestHandler = ({ params, url }) =>
  answer(async () => {
    if (!isId(params.delivery)) return notFound('delivery');
    const entries = await finishedItems(await getContext(), params.delivery);
    const asJson = url.searchParams.get('format') === 'json';
    return new Response(asJson ? manifestJson(entries) : manifestCsv(entries), {
      headers: {
        'content-type': asJson ? 'application/json' : 'text/csv; charset=utf-8',
        'content-disposition': `attachment; filename="manifest.${asJson ? 'json' : 'csv'}"`
      }
    });
  });

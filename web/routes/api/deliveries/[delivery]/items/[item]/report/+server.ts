import { answer, fixedBytes, isId, notFound } from '$lib/answer.ts';
import { getContext } from '$server/app.ts';
import { itemReport } from '$server/deliveries/delivery-files.ts';
import type { RequestHandler } from './$types';

/** The report of one picture, as JSON. */
export const GET: RequestHandler = ({ params }) =>
  answer(async () => {
    const found = isId(params.item) ? await itemReport(await getContext(), params.item) : null;
    if (!found) return notFound('report');
    const bytes = new TextEncoder().encode(JSON.stringify(found.report, null, 2) + '\n');
    return fixedBytes(bytes, 'application/json', `${found.file.replace(/\.[^.]+$/, '')}-report.json`);
  });

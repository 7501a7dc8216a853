import { json } from '@sveltejs/kit';
import { answer } from '$lib/answer.ts';
import { readJson } from '$lib/read-json.ts';
import { getContext } from '$server/app.ts';
import { importDeliverables, listDeliverables } from '$server/deliveries/deliverables.ts';
import type { RequestHandler } from './$types';

/** The studio's own deliverables as a file; with none of them, the ready-made ones as an example. */
export const GET: RequestHandler = () =>
  answer(async () => {
    const rows = await listDeliverables(await getContext());
    const own = rows.filter(({ shipped }) => !shipped);
    const documents = (own.length > 0 ? own : rows).map(({ document }) => document);
    return new Response(JSON.stringify(documents, null, 2) + '\n', {
      headers: {
        'content-type': 'application/json',
        'content-disposition': 'attachment; filename="deliverables.json"'
      }
    });
  });

/** Adds the deliverables of a file. */
export const POST: RequestHandler = ({ request }) =>
  answer(async () =>
    json({ added: await importDeliverables(await getContext(), await readJson(request, 'deliverables')) })
  );

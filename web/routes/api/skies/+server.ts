import { json } from '@sveltejs/kit';
import { answer } from '$lib/answer.ts';
import { isPlainText } from '$server/documents/plain-text.ts';
import { readBytes } from '$lib/read-json.ts';
import { getContext } from '$server/app.ts';
import { importSky, listSkies } from '$server/skies/skies.ts';
import type { RequestHandler } from './$types';

export const GET: RequestHandler = () => answer(async () => json(await listSkies(await getContext())));

/** Takes a picture file as the body; its name in the query. */
export const POST: RequestHandler = ({ request, url }) =>
  answer(async () => {
    const bytes = await readBytes(request, 'sky');
    const name = url.searchParams.get('name') ?? '';
    return json(await importSky(await getContext(), bytes, isPlainText(name) ? name : ''), { status: 201 });
  });

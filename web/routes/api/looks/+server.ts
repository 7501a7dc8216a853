import { json } from '@sveltejs/kit';
import { answer } from '$lib/answer.ts';
import { getContext } from '$server/app.ts';
import { UserError } from '$server/user-error.ts';
import { importLook, listLooks } from '$server/looks/looks.ts';
import { LOOK_SPACES, type LookSpace } from '$core/steps/colour/looks/look.ts';
import { isPlainText } from '$server/documents/plain-text.ts';
import { readText } from '$lib/read-json.ts';
import type { RequestHandler } from './$types';

export const GET: RequestHandler = () => answer(async () => json(await listLooks(await getContext())));

/** Takes a .cube file as the plain body; its name, and what its colours are, in the query. */
export const POST: RequestHandler = ({ request, url }) =>
  answer(async () => {
    const space = (url.searchParams.get('space') ?? 'srgb') as LookSpace;
    if (!LOOK_SPACES.includes(space)) throw new UserError('A look is for sRGB or for linear light.');
    const text = await readText(request, 'look');
    if (!isPlainText(text))
      throw new UserError('This is no .cube file: it holds characters that are no text.');
    const name = url.searchParams.get('name') ?? '';
    return json(await importLook(await getContext(), { text, name, space }), { status: 201 });
  });

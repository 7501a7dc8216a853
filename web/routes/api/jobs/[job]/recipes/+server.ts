import { Readable } from 'node:stream';
import { answer, isId, notFound } from '$lib/answer.ts';
import { getContext } from '$server/app.ts';
import { recipesZip } from '$server/archive/recipe-beside.ts';
import type { RequestHandler } from './$types';

/** The recipes of all frames, as files to lie beside their originals. */
export const GET: RequestHandler = ({ params }) =>
  answer(async () => {
    if (!isId(params.job)) return notFound('job');
    const zip = await recipesZip(await getContext(), params.job);
    return new Response(Readable.toWeb(zip) as ReadableStream, {
      headers: {
        'content-type': 'application/zip',
        'content-disposition': 'attachment; filename="recipes.zip"'
      }
    });
  });

import { json } from '@sveltejs/kit';
import { answer } from '$lib/answer.ts';
import { readJson } from '$lib/read-json.ts';
import { getContext } from '$server/app.ts';
import { houseFile, importHouseSettings } from '$server/recipes/house-settings.ts';
import type { RequestHandler } from './$types';

/** All of them as a file, or with ?set=ID one. */
export const GET: RequestHandler = ({ url }) =>
  answer(
    async () =>
      new Response(
        JSON.stringify(await houseFile(await getContext(), url.searchParams.get('set')), null, 2) + '\n',
        {
          headers: {
            'content-type': 'application/json',
            'content-disposition': 'attachment; filename="house-settings.json"'
          }
        }
      )
  );

/** Adds the sets of a file. */
export const POST: RequestHandler = ({ request }) =>
  answer(async () =>
    json({ added: await importHouseSettings(await getContext(), await readJson(request, 'house settings')) })
  );

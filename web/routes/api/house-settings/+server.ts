import { json } from '@sveltejs/kit';
import { answer } from '$lib/answer.ts';
import { readJson } from '$lib/read-json.ts';
import { getContext } from '$server/app.ts';
import { keepHouseSettings, listHouseSettings } from '$server/recipes/house-settings.ts';
import type { RequestHandler } from './$types';

export const GET: RequestHandler = () =>
  answer(async () => json(await listHouseSettings(await getContext())));

/** Keeps { name, folder, steps }. */
export const POST: RequestHandler = ({ request }) =>
  answer(async () =>
    json(
      { id: await keepHouseSettings(await getContext(), await readJson(request, 'recipe')) },
      { status: 201 }
    )
  );

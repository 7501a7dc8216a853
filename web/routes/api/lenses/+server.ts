import { json } from '@sveltejs/kit';
import { answer } from '$lib/answer.ts';
import { readText } from '$lib/read-json.ts';
import { getContext } from '$server/app.ts';
import { type CatalogueSearch, searchProfiles } from '$server/lenses/catalogue.ts';
import { importProfiles } from '$server/lenses/import-profiles.ts';
import type { RequestHandler } from './$types';

export const GET: RequestHandler = ({ url }) =>
  answer(async () => {
    const search: CatalogueSearch = {
      text: url.searchParams.get('text') ?? '',
      origin: (url.searchParams.get('origin') ?? '') as CatalogueSearch['origin'],
      corrects: url.searchParams.get('corrects') ?? ''
    };
    return json(await searchProfiles(await getContext(), search));
  });

/** Imports { files: [{ name, text }] }: profiles as JSON, calibration data as XML. */
export const POST: RequestHandler = ({ request }) =>
  answer(async () => {
    return json(await importProfiles(await getContext(), await readText(request, 'profiles')));
  });

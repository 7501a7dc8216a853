import { json } from '@sveltejs/kit';
import { answer } from '$lib/answer.ts';
import { readJson } from '$lib/read-json.ts';
import { getContext } from '$server/app.ts';
import { UserError } from '$server/decode/user-error.ts';
import { type CatalogueSearch, searchProfiles } from '$server/lenses/catalogue.ts';
import { type ImportedFile, importProfiles } from '$server/lenses/import-profiles.ts';
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
    const { files } = (await readJson(request, 'profiles')) as { files?: ImportedFile[] };
    const sound =
      Array.isArray(files) &&
      files.every((file) => typeof file?.name === 'string' && typeof file?.text === 'string');
    if (!sound || files.length === 0)
      throw new UserError('Choose profiles (JSON) or calibration data (XML) to import.');
    return json(await importProfiles(await getContext(), files));
  });

import { json } from '@sveltejs/kit';
import { answer } from '$lib/answer.ts';
import { getApp } from '$server/app.ts';
import { UserError } from '$server/decode/user-error.ts';
import { type CatalogueSearch, searchProfiles } from '$server/lenses/catalogue.ts';
import { type ImportedFile, importProfiles } from '$server/lenses/import-profiles.ts';
import type { RequestHandler } from './$types';

/** Most bytes of one import: several times the largest known collection of calibration data. */
const MOST_IMPORT = 128 * 1024 * 1024;

export const GET: RequestHandler = ({ url }) =>
  answer(async () => {
    const search: CatalogueSearch = {
      text: url.searchParams.get('text') ?? '',
      origin: (url.searchParams.get('origin') ?? '') as CatalogueSearch['origin'],
      corrects: url.searchParams.get('corrects') ?? ''
    };
    return json(await searchProfiles(await getApp(), search));
  });

/** Imports { files: [{ name, text }] }: profiles as JSON, calibration data as XML. */
export const POST: RequestHandler = ({ request }) =>
  answer(async () => {
    if (Number(request.headers.get('content-length')) > MOST_IMPORT)
      throw new UserError('These files are too large together: at most 128 MB are imported at once.');
    const { files } = (await request.json()) as { files?: ImportedFile[] };
    const sound =
      Array.isArray(files) &&
      files.every((file) => typeof file?.name === 'string' && typeof file?.text === 'string');
    if (!sound || files.length === 0)
      throw new UserError('Choose profiles (JSON) or calibration data (XML) to import.');
    return json(await importProfiles(await getApp(), files));
  });

import { json } from '@sveltejs/kit';
import { answer, notFound } from '$lib/answer.ts';
import { readJson } from '$lib/read-json.ts';
import { getContext } from '$server/app.ts';
import {
  duplicateProfile,
  profileById,
  profileUsage,
  removeProfile,
  saveProfile
} from '$server/lenses/catalogue.ts';
import type { RequestHandler } from './$types';

export const GET: RequestHandler = ({ params }) =>
  answer(async () => {
    const context = await getContext();
    const found = await profileById(context, params.lens);
    return found ? json({ ...found, usage: await profileUsage(context, params.lens) }) : notFound('profile');
  });

export const PUT: RequestHandler = ({ params, request }) =>
  answer(async () => json(await saveProfile(await getContext(), params.lens, await readJson(request))));

/** Duplicates the profile. */
export const POST: RequestHandler = ({ params }) =>
  answer(async () => json(await duplicateProfile(await getContext(), params.lens), { status: 201 }));

export const DELETE: RequestHandler = ({ params, url }) =>
  answer(async () => {
    await removeProfile(await getContext(), params.lens, url.searchParams.get('force') === 'yes');
    return json({});
  });

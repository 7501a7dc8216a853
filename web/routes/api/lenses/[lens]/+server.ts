import { json } from '@sveltejs/kit';
import { answer, notFound } from '$lib/answer.ts';
import { getApp } from '$server/app.ts';
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
    const app = await getApp();
    const found = await profileById(app, params.lens);
    return found ? json({ ...found, usage: await profileUsage(app, params.lens) }) : notFound('profile');
  });

export const PUT: RequestHandler = ({ params, request }) =>
  answer(async () => json(await saveProfile(await getApp(), params.lens, await request.json())));

/** Duplicates the profile. */
export const POST: RequestHandler = ({ params }) =>
  answer(async () => json(await duplicateProfile(await getApp(), params.lens), { status: 201 }));

export const DELETE: RequestHandler = ({ params, url }) =>
  answer(async () => {
    await removeProfile(await getApp(), params.lens, url.searchParams.get('force') === 'yes');
    return json({});
  });

import { json } from '@sveltejs/kit';
import { answer } from '$lib/answer.ts';
import { getApp } from '$server/app.ts';
import { freeId, soundProfile, writeProfiles } from '$server/lenses/catalogue.ts';
import { type MeasureRequest, measureLens, measureSchema } from '$server/lenses/measure-lens.ts';
import { validator } from '$server/recipe/validate.ts';
import type { RequestHandler } from './$types';

const validMeasure = validator<MeasureRequest>(measureSchema, 'request');

/** Makes a profile from frames of charts and flat surfaces. */
export const POST: RequestHandler = ({ request }) =>
  answer(async () => json(await measureLens(await getApp(), validMeasure(await request.json()))));

/** Stores a profile that was solved on the bench; it is given an id of its own. */
export const PUT: RequestHandler = ({ request }) =>
  answer(async () => {
    const app = await getApp();
    const profile = soundProfile(await request.json());
    const own = { ...profile, id: await freeId(app, profile.maker, profile.lens) };
    await writeProfiles(app.db, [own], 'measured');
    return json(own, { status: 201 });
  });

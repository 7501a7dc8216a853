import { json } from '@sveltejs/kit';
import { answer } from '$lib/answer.ts';
import { readJson } from '$lib/read-json.ts';
import { getContext } from '$server/app.ts';
import { freeId, writeProfiles } from '$server/lenses/catalogue.ts';
import { soundProfile } from '$server/lenses/sound-profile.ts';
import { type MeasureRequest, measureLens, measureSchema } from '$server/lenses/measure-lens.ts';
import { validator } from '$server/documents/validator.ts';
import type { RequestHandler } from './$types';

const validMeasure = validator<MeasureRequest>(measureSchema, 'request');

/** Makes a profile from frames of charts and flat surfaces. */
export const POST: RequestHandler = ({ request }) =>
  answer(async () => json(await measureLens(await getContext(), validMeasure(await readJson(request)))));

/** Stores a profile that was solved on the bench; it is given an id of its own. */
export const PUT: RequestHandler = ({ request }) =>
  answer(async () => {
    const context = await getContext();
    const profile = soundProfile(await readJson(request));
    const own = { ...profile, id: await freeId(context, profile.maker, profile.lens) };
    await writeProfiles(context.db, [own], 'measured');
    return json(own, { status: 201 });
  });

import { json } from '@sveltejs/kit';
import { answer, isId, notFound } from '$lib/answer.ts';
import { getApp } from '$server/app.ts';
import { UserError } from '$server/decode/user-error.ts';
import { saveRecipe } from '$server/frames/frame-row.ts';
import { validRecipe } from '$server/recipe/validate.ts';
import type { RequestHandler } from './$types';

/** Saves { version, recipe } over that version; 409 with the newer one when there is one. */
export const PUT: RequestHandler = ({ params, request }) =>
  answer(async () => {
    const body = (await request.json()) as { version?: unknown; recipe?: unknown };
    if (!Number.isInteger(body.version)) throw new UserError('The version of the recipe is missing.');
    const recipe = validRecipe(body.recipe);
    const result = isId(params.frame)
      ? await saveRecipe(await getApp(), params.frame, body.version as number, recipe)
      : null;
    if (!result) return notFound('frame');
    return json(result, { status: result.saved ? 200 : 409 });
  });

import { json } from '@sveltejs/kit';
import { answer, isId, notFound } from '$lib/answer.ts';
import { readJson } from '$lib/read-json.ts';
import { getContext } from '$server/app.ts';
import { UserError } from '$server/user-error.ts';
import { saveRecipe } from '$server/recipes/write-recipe.ts';
import { validRecipe } from '$server/recipes/validate.ts';
import type { RequestHandler } from './$types';

/** Saves { version, recipe } over that version; 409 with the newer one when there is one. */
export const PUT: RequestHandler = ({ params, request }) =>
  answer(async () => {
    const body = (await readJson(request, 'recipe')) as { version?: unknown; recipe?: unknown };
    if (!Number.isInteger(body.version)) throw new UserError('The version of the recipe is missing.');
    const recipe = validRecipe(body.recipe);
    const result = isId(params.frame)
      ? await saveRecipe(await getContext(), params.frame, body.version as number, recipe)
      : null;
    if (!result) return notFound('frame');
    return json(result, { status: result.saved ? 200 : 409 });
  });

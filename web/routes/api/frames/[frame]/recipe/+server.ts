import { json } from '@sveltejs/kit';
import { answer, isId, notFound } from '$lib/answer.ts';
import { readJson } from '$lib/read-json.ts';
import { getContext } from '$server/app.ts';
import { frameRecipeFile } from '$server/archive/frame-recipe-file.ts';
import { takeRecipe } from '$server/archive/recipe-beside.ts';
import { frameById } from '$server/frames/frame-row.ts';
import { soundChange } from '$server/recipes/history.ts';
import { UserError } from '$server/user-error.ts';
import { saveRecipe } from '$server/recipes/write-recipe.ts';
import { validRecipe } from '$server/recipes/validate.ts';
import type { RequestHandler } from './$types';

/** The recipe as a file for the command line, with the look that it names. */
export const GET: RequestHandler = ({ params }) =>
  answer(async () => {
    const context = await getContext();
    const frame = isId(params.frame) ? await frameById(context, params.frame) : null;
    if (!frame) return notFound('frame');
    const file = await frameRecipeFile(context, frame.recipe);
    const name = frame.name.replace(/\.[^.]*$/, '');
    return new Response(`${JSON.stringify(file, null, 2)}\n`, {
      headers: {
        'content-type': 'application/json',
        'content-disposition': `attachment; filename*=UTF-8''${encodeURIComponent(name)}.json`
      }
    });
  });

/** Takes such a file as the frame's recipe, with the looks and skies that it carries. */
export const POST: RequestHandler = ({ params, request }) =>
  answer(async () => {
    if (!isId(params.frame)) return notFound('frame');
    const file = await readJson(request, 'recipe file');
    return json({ changed: await takeRecipe(await getContext(), params.frame, file) });
  });

/** Saves { version, recipe, history } over that version; 409 with the newer one when there is one. */
export const PUT: RequestHandler = ({ params, request }) =>
  answer(async () => {
    const body = (await readJson(request, 'recipe')) as {
      version?: unknown;
      recipe?: unknown;
      history?: unknown;
    };
    if (!Number.isInteger(body.version)) throw new UserError('The version of the recipe is missing.');
    const recipe = validRecipe(body.recipe);
    const history = body.history === undefined ? null : soundChange(body.history, validRecipe);
    const result = isId(params.frame)
      ? await saveRecipe(await getContext(), params.frame, body.version as number, recipe, { history })
      : null;
    if (!result) return notFound('frame');
    return json(result, { status: result.saved ? 200 : 409 });
  });

import { json } from '@sveltejs/kit';
import { answer, isId, notFound } from '$lib/answer.ts';
import { readJson } from '$lib/read-json.ts';
import { getContext } from '$server/app.ts';
import { keepRevision, revisionsOf } from '$server/recipes/revisions.ts';
import { validRecipe } from '$server/recipes/validate.ts';
import { UserError } from '$server/user-error.ts';
import type { RequestHandler } from './$types';

export const GET: RequestHandler = ({ params }) =>
  answer(async () =>
    isId(params.frame) ? json(await revisionsOf(await getContext(), params.frame)) : notFound('frame')
  );

/** Keeps { recipe, name } as the next revision. */
export const POST: RequestHandler = ({ params, request }) =>
  answer(async () => {
    if (!isId(params.frame)) return notFound('frame');
    const { recipe, name = '' } = (await readJson(request, 'recipe')) as { recipe?: unknown; name?: unknown };
    if (typeof name !== 'string') throw new UserError('The name of a revision is a text.');
    return json(await keepRevision(await getContext(), params.frame, validRecipe(recipe), name), {
      status: 201
    });
  });

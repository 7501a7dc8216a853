import { json } from '@sveltejs/kit';
import { answer, isId, notFound } from '$lib/answer.ts';
import { readJson } from '$lib/read-json.ts';
import { getContext } from '$server/app.ts';
import { changeRevision, removeRevision } from '$server/recipes/revisions.ts';
import { UserError } from '$server/user-error.ts';
import type { RequestHandler } from './$types';

/** Changes { name, forDelivery }. */
export const PATCH: RequestHandler = ({ params, request }) =>
  answer(async () => {
    const { name, forDelivery } = (await readJson(request)) as { name?: unknown; forDelivery?: unknown };
    if (name !== undefined && typeof name !== 'string')
      throw new UserError('The name of a revision is a text.');
    if (forDelivery !== undefined && typeof forDelivery !== 'boolean')
      throw new UserError('A revision is marked for delivery, or it is not.');
    const known =
      isId(params.frame) &&
      isId(params.revision) &&
      (await changeRevision(await getContext(), params.frame, params.revision, { name, forDelivery }));
    return known ? json({}) : notFound('revision');
  });

export const DELETE: RequestHandler = ({ params }) =>
  answer(async () => {
    const known =
      isId(params.frame) &&
      isId(params.revision) &&
      (await removeRevision(await getContext(), params.frame, params.revision));
    return known ? json({}) : notFound('revision');
  });

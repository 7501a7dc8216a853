import { json } from '@sveltejs/kit';
import { answer, fixedBytes, notFound } from '$lib/answer.ts';
import { cleanName } from '$core/steps/colour/looks/cube-file.ts';
import { getContext } from '$server/app.ts';
import { UserError } from '$server/user-error.ts';
import { removeLook, renameLook, storedLook } from '$server/looks/looks.ts';
import { readJson } from '$lib/read-json.ts';
import type { RequestHandler } from './$types';

export const GET: RequestHandler = ({ params }) =>
  answer(async () => {
    const bytes = await storedLook(await getContext(), params.look);
    return bytes ? fixedBytes(bytes, 'application/octet-stream') : notFound('look');
  });

export const PATCH: RequestHandler = ({ params, request }) =>
  answer(async () => {
    const name = cleanName(String(((await readJson(request)) as { name?: unknown }).name ?? ''));
    if (name === '') throw new UserError('A look needs a name.');
    return (await renameLook(await getContext(), params.look, name)) ? json({ name }) : notFound('look');
  });

export const DELETE: RequestHandler = ({ params }) =>
  answer(async () => ((await removeLook(await getContext(), params.look)) ? json({}) : notFound('look')));

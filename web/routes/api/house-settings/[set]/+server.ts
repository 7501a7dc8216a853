import { json } from '@sveltejs/kit';
import { answer, isId, notFound } from '$lib/answer.ts';
import { readJson } from '$lib/read-json.ts';
import { getContext } from '$server/app.ts';
import { validator } from '$server/documents/validator.ts';
import { moveHouseSettings, removeHouseSettings } from '$server/recipes/house-settings.ts';
import type { RequestHandler } from './$types';

const validMove = validator<{ name?: string; folder?: string }>(
  {
    $id: 'move-house-settings',
    type: 'object',
    additionalProperties: false,
    properties: {
      name: { type: 'string', minLength: 1, maxLength: 80 },
      folder: { type: 'string', maxLength: 80 }
    }
  },
  'change'
);
const GONE = 'set of house settings';

export const PATCH: RequestHandler = ({ params, request }) =>
  answer(async () => {
    const change = validMove(await readJson(request));
    const done = isId(params.set) && (await moveHouseSettings(await getContext(), params.set, change));
    return done ? json({}) : notFound(GONE);
  });

export const DELETE: RequestHandler = ({ params }) =>
  answer(async () =>
    isId(params.set) && (await removeHouseSettings(await getContext(), params.set))
      ? json({})
      : notFound(GONE)
  );

import { json } from '@sveltejs/kit';
import { answer, isId, notFound } from '$lib/answer.ts';
import { UUID } from '$server/database/uuid.ts';
import { readJson } from '$lib/read-json.ts';
import { getContext } from '$server/app.ts';
import { validator } from '$server/documents/validator.ts';
import { takeBack } from '$server/recipes/take-back.ts';
import type { Changed } from '$server/recipes/write-recipe.ts';
import type { RequestHandler } from './$types';

const validChanges = validator<{ changed: Changed[] }>(
  {
    $id: 'take-back',
    type: 'object',
    additionalProperties: false,
    required: ['changed'],
    properties: {
      changed: {
        type: 'array',
        maxItems: 5000,
        items: {
          type: 'object',
          additionalProperties: false,
          required: ['id', 'version'],
          properties: {
            id: { type: 'string', pattern: UUID.source },
            version: { type: 'integer', minimum: 1 }
          }
        }
      }
    }
  },
  'frames'
);

/** Takes back what was done to many frames at once, where nothing was done since. */
export const POST: RequestHandler = ({ params, request }) =>
  answer(async () => {
    if (!isId(params.job)) return notFound('job');
    const { changed } = validChanges(await readJson(request));
    return json(await takeBack(await getContext(), params.job, changed));
  });

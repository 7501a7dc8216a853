/** Pairs of frame and deliverable, as a request holds them. */
import type { Pick } from '$server/deliveries/deliveries.ts';
import { validator } from '$server/documents/validator.ts';
import { isId } from './answer.ts';

const valid = validator<{ picks: Pick[] }>(
  {
    $id: 'delivery',
    type: 'object',
    additionalProperties: false,
    required: ['picks'],
    properties: {
      picks: {
        type: 'array',
        items: { type: 'array', minItems: 2, maxItems: 2, items: { type: 'string' } }
      }
    }
  },
  'delivery'
);

export const readPicks = (body: unknown): Pick[] => valid(body).picks.filter((pick) => pick.every(isId));

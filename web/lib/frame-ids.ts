/** Frames that a request names in its body. */
import { validator } from '$server/documents/validator.ts';
import { UUID } from '$server/database/uuid.ts';

export const idsSchema = {
  type: 'array',
  minItems: 1,
  maxItems: 5000,
  items: { type: 'string', pattern: UUID.source }
} as const;

export const validIds = validator<{ ids: string[] }>(
  {
    $id: 'frames-named',
    type: 'object',
    additionalProperties: false,
    required: ['ids'],
    properties: { ids: idsSchema }
  },
  'frames'
);

/** Frames that a request names in its body. */
import { validator } from '$server/documents/validator.ts';
import { idsSchema } from '$server/database/uuid.ts';

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

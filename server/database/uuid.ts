/** What an id looks like: anything else would make the database complain. */
export const UUID = /^[0-9a-f]{8}(-[0-9a-f]{4}){3}-[0-9a-f]{12}$/;

/** Ids that a request names in its body. */
export const idsSchema = {
  type: 'array',
  minItems: 1,
  maxItems: 5000,
  items: { type: 'string', pattern: UUID.source }
} as const;

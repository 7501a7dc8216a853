/** What tells one of a list's entries from the others. */
export const id = { type: 'string', minLength: 1, maxLength: 40 } as const;

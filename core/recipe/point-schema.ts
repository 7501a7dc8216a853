/** A field position; marks may lie a little outside the frame. */
export const point = {
  type: 'array',
  minItems: 2,
  maxItems: 2,
  items: { type: 'number', minimum: -1.5, maximum: 1.5 }
} as const;

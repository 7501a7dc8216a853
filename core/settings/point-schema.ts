/** A field position; marks may lie a little outside the frame. */
const coordinate = { type: 'number', minimum: -1.5, maximum: 1.5 } as const;

export const point = {
  type: 'array',
  minItems: 2,
  maxItems: 2,
  items: [coordinate, coordinate],
  additionalItems: false
} as const;

/** What every part of a shape has beside what it is drawn by. */
import { id } from '../../../settings/id-schema.ts';

/** How a part meets what stands before it. */
export const MEETINGS = ['add', 'take', 'within'] as const;
export type Meeting = (typeof MEETINGS)[number];

/** A share of something, 0..100. */
export const share = { type: 'number', minimum: 0, maximum: 100 } as const;

export const partSchema = <K extends string, P extends object>(kind: K, properties: P) =>
  ({
    type: 'object',
    additionalProperties: false,
    required: ['id', 'kind', 'meets', ...Object.keys(properties)] as readonly (
      'id' | 'kind' | 'meets' | (keyof P & string)
    )[],
    properties: { id, kind: { const: kind }, meets: { enum: MEETINGS }, ...properties }
  }) as const;

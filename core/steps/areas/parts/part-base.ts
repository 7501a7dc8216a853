/** What every part of a shape has beside what it is drawn by. */
import { id } from '../../../settings/id-schema.ts';

/** How a part meets what stands before it. */
export const MEETINGS = ['add', 'take', 'within'] as const;
export type Meeting = (typeof MEETINGS)[number];

const meets = {
  enum: MEETINGS,
  default: 'add',
  label: 'Meets',
  description: 'How it meets the parts before it: added to them, taken away, or all else is left out.'
} as const;

/** A switch of a part, off until it is set. */
export const partSwitch = (label: string, description: string) =>
  ({ type: 'boolean', default: false, label, description }) as const;

/** `properties` are always there, `more` need not be. */
export const partSchema = <K extends string, P extends object, M extends object = object>(
  kind: K,
  properties: P,
  more: M = {} as M
) =>
  ({
    type: 'object',
    additionalProperties: false,
    required: ['id', 'kind', 'meets', ...Object.keys(properties)] as readonly (
      'id' | 'kind' | 'meets' | (keyof P & string)
    )[],
    properties: { id, kind: { const: kind }, meets, ...properties, ...more }
  }) as const;

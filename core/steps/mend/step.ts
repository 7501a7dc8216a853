/** The Mend step. */
import type { Settings, Step } from '../../settings/step.ts';
import { MOST_PATCHES, type Patch, patchSchema, worksOn } from './patch.ts';

export const mendSchema = {
  type: 'object',
  additionalProperties: false,
  properties: {
    enabled: {
      type: 'boolean',
      default: true,
      label: 'Mend',
      description: 'Switched off, nothing is mended.'
    },
    patches: {
      type: 'array',
      default: [],
      maxItems: MOST_PATCHES,
      label: 'Mended places',
      description: 'What is mended, one after another; places are those of the frame as the glass put it.',
      items: patchSchema
    }
  }
} as const;

export interface MendSettings {
  enabled: boolean;
  patches: readonly Patch[];
}

/** Places that are mended, in their order. */
export const patchesAtWork = (settings: Settings<typeof mendSchema>): Patch[] => {
  const { enabled, patches } = settings as unknown as MendSettings;
  return enabled ? patches.filter(worksOn) : [];
};

export const mendStep = {
  name: 'mend',
  schema: mendSchema,
  itself: () => false,
  // What was in the way on one frame is elsewhere on the next; dust is offered to others by itself.
  carries: { stays: ['patches'], sameShape: false, along: {}, groups: [] }
} as const satisfies Step<'mend', typeof mendSchema>;

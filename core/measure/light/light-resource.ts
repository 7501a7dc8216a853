/** The broad light of a frame as a resource: measured once on what the source stages leave of it. */
import type { Resource } from '../../picture/tile/resource.ts';
import type { FrameLight } from './frame-light.ts';
import { measureLight } from './measure-light.ts';

export const lightResource: Resource<'light', null, FrameLight> = {
  name: 'light',
  of: 'frame',
  stored: () => null,
  make({ planes, toWorking }) {
    if (!planes) throw new Error('Broad light is measured on a picture.');
    return measureLight(planes, toWorking);
  },
  memory: ({ bases, haze, stops, colours }) => [bases, haze, stops, ...colours],
  missing: 'The light of this frame could not be measured.'
};

/** What a stage asks for that goes by the light. */
export const LIGHT = { resource: 'light', data: null } as const;

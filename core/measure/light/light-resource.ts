/** The broad light of a frame as a resource: measured once on what the source stages leave of it. */
import type { Resource } from '../../picture/tile/resource.ts';
import type { FrameLight } from './frame-light.ts';
import { FIRST_RENDITION, RENDITION, SECOND_RENDITION, type Rendition } from '../../settings/rendition.ts';
import { measureLight } from './measure-light.ts';

/** The rendition whose way of measuring is meant. */
interface LightOf {
  rendition: Rendition;
}

export const lightResource: Resource<'light', LightOf, FrameLight> = {
  name: 'light',
  of: 'frame',
  stored: () => null,
  make({ planes, toWorking }, { rendition }) {
    if (!planes) throw new Error('Broad light is measured on a picture.');
    return measureLight(planes, toWorking, rendition);
  },
  memory: ({ bases, haze, stops, colours }) => [bases, haze, stops, ...colours],
  missing: 'The light of this frame could not be measured.'
};

/** What asks for the light, and stages of earlier renditions for it as those had it. */
export const LIGHT = { resource: 'light', data: { rendition: RENDITION } } as const;
export const SECOND_LIGHT = { resource: 'light', data: { rendition: SECOND_RENDITION } } as const;
export const FIRST_LIGHT = { resource: 'light', data: { rendition: FIRST_RENDITION } } as const;

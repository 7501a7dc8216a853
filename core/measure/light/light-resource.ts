/** The broad light of a frame as a resource: measured once on what the source stages leave of it. */
import { type Ask, type Resource, planesOn } from '../../picture/tile/resource.ts';
import type { FrameLight } from './frame-light.ts';
import type { Rendition } from '../../settings/rendition.ts';
import { measureLight } from './measure-light.ts';

interface LightOf {
  /** The rendition whose way of measuring is meant. */
  rendition: Rendition;
  /** The resource whose planes are measured; null: the frame as it was developed. */
  on: Ask | null;
}

export const lightResource: Resource<'light', LightOf, FrameLight> = {
  name: 'light',
  of: 'frame',
  reads: ({ on }) => (on ? [on] : []),
  alike: ({ rendition }) => rendition,
  stored: () => null,
  make: (from, { rendition, on }) => measureLight(planesOn(from, on), from.toWorking, rendition),
  memory: ({ bases, haze, stops, colours }) => [bases, haze, stops, ...colours],
  missing: 'The light of this frame could not be measured.'
};

/** What asks for the light that a rendition measures. */
export const askForLight = (rendition: Rendition, on: Ask | null): Ask<'light', LightOf> => ({
  resource: 'light',
  data: { rendition, on }
});

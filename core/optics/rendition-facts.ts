import { FIRST_RENDITION, type Rendition } from '../settings/rendition.ts';
import { workingAsShot } from './camera-white.ts';
import type { FrameFacts } from './frame-facts.ts';

/**
 * What a file says of its frame, with its colours as a rendition has them: by the file's own matrices where it has any, under the
 * light that it was shot in. The first rendition went by one matrix of the raw library under every light.
 */
export function renditionFacts<Facts extends Pick<FrameFacts, 'toWorking' | 'white'>>(
  facts: Facts,
  rendition: Rendition
): Facts {
  if (rendition === FIRST_RENDITION || !facts.white?.fromFile) return facts;
  return { ...facts, toWorking: workingAsShot(facts.white) };
}

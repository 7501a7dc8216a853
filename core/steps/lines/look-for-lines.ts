/** From the edges of a picture to what they say of its verticals: as the bench and the server both ask. */
import type { GreyPlane } from '../../measure/edges/trace-polyline.ts';
import { type FindSegmentsOptions, findSegments } from './find-segments.ts';
import { type TrueUpItself, trueUpItself } from './true-up-itself.ts';

export interface LookForLinesOptions extends Pick<FindSegmentsOptions, 'model' | 'toField'> {
  /** Focal length in field units, and whether it is known. */
  focal: number;
  focalKnown: boolean;
}

export function lookForLines(
  plane: GreyPlane,
  { model, toField, focal, focalKnown }: LookForLinesOptions
): TrueUpItself {
  const segments = findSegments(plane, { model, toField });
  // A picture whose lens nobody undid may have any bow.
  const lensKnown = model.projection !== 'rectilinear' || model.terms.some((term) => term !== 0);
  return trueUpItself(segments, { focal, focalKnown, lensKnown });
}

/** What local contrast adds to a frame as a resource: measured once on what the source stages leave of it. */
import { type Ask, type Resource, planesOn } from '../../../picture/tile/resource.ts';
import { type FrameDetails, measureDetails } from './measure-details.ts';

interface DetailsOf {
  /** The resource whose planes are measured; null: the frame as it was developed. */
  on: Ask | null;
}

export const detailsResource: Resource<'details', DetailsOf, FrameDetails> = {
  name: 'details',
  of: 'frame',
  reads: ({ on }) => (on ? [on] : []),
  alike: () => null,
  stored: () => null,
  make: (from, { on }) => measureDetails(planesOn(from, on), from.toWorking),
  memory: ({ fine, lines }) => [...fine, lines],
  missing: 'The local contrast of this frame could not be measured.'
};

export const askForDetails = (on: Ask | null): Ask<'details', DetailsOf> => ({
  resource: 'details',
  data: { on }
});

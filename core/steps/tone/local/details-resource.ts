/** What local contrast adds to a frame as a resource: measured once on what the source stages leave of it. */
import type { Resource } from '../../../picture/tile/resource.ts';
import { type FrameDetails, measureDetails } from './measure-details.ts';

export const detailsResource: Resource<'details', null, FrameDetails> = {
  name: 'details',
  of: 'frame',
  stored: () => null,
  make({ planes, toWorking }) {
    if (!planes) throw new Error('Local contrast is measured on a picture.');
    return measureDetails(planes, toWorking);
  },
  memory: ({ fine, lines }) => [...fine, lines],
  missing: 'The local contrast of this frame could not be measured.'
};

export const DETAILS = { resource: 'details', data: null } as const;

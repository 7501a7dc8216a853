/** What the source stages make of a frame, as a resource: the picture and its halves, in place of those that came. */
import { pyramid } from '../picture/tile/halve.ts';
import type { PlacedPlanes } from '../picture/tile/planes.ts';
import type { Ask, Resource } from '../picture/tile/resource.ts';
import { type SourceInputs, changedPicture, sourceInputs } from './source-planes.ts';
import type { StageInputs } from './stages.ts';

export const developedResource: Resource<'developed', SourceInputs, PlacedPlanes[]> = {
  name: 'developed',
  of: 'frame',
  stored: () => null,
  make({ planes }, inputs) {
    if (!planes) throw new Error('Source stages change a picture.');
    return pyramid(changedPicture(planes, inputs));
  },
  memory: (levels) => levels.flatMap(({ r, g, b }) => [r, g, b]),
  missing: 'This frame could not be mended.'
};

/** What pictures are drawn from where source stages have something to do; null: the planes as they came. */
export function developedAsk(stages: StageInputs): Ask<'developed', SourceInputs> | null {
  const data = sourceInputs(stages);
  return data.length === 0 ? null : { resource: 'developed', data };
}

/** Masks as a resource: each is drawn once, and read by every tile. */
import type { Resource } from '../../picture/tile/resource.ts';
import { CELLS, type Mask, makeMask } from './mask.ts';
import type { MaskSpec } from './shape.ts';

export const maskResource: Resource<'mask', MaskSpec, Mask> = {
  name: 'mask',
  of: 'frame',
  longEdge: CELLS,
  stored: () => null,
  make({ planes, toWorking, picture }, spec) {
    if (!planes) throw new Error('A mask is drawn on a picture.');
    return makeMask({ planes, toWorking, picture }, spec);
  },
  memory: ({ values, lines, inside }) => [
    values,
    ...(lines ? [lines.values] : []),
    ...(inside ? inside.planes : [])
  ],
  missing: 'The areas of this frame could not be drawn.'
};

export const maskAsk = (spec: MaskSpec) => ({ resource: 'mask', data: spec }) as const;

import type { Guide } from '$core/steps/crop/snap-crop.ts';
import { deliverableSchema } from '$core/picture/output/deliverable-schema.ts';
import { stepView } from '../parts/step-view.ts';

export const cropView = stepView(() => {
  const view = $state({
    /** Lines over the crop, whether it comes to rest on them, and whether other ratios follow. */
    guide: 'thirds' as Guide,
    snap: true,
    alone: false,
    /** Resolution at which the printed size of the crop is told. */
    ppi: deliverableSchema.properties.ppi.default as number
  });
  return view;
});

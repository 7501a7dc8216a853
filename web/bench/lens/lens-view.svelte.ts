import type { Curve } from '$core/optics/curve.ts';
import { stepView } from '../parts/step-view.ts';

export type LensPage = 'profile' | 'bow' | 'colour' | 'falloff';
/** What a press on the picture does in the Lens step. */
export type LensTool = 'none' | 'curve' | 'pick one' | 'pick two';

export const lensView = stepView(() => {
  const view = $state({
    page: 'profile' as LensPage,
    tool: 'none' as LensTool,
    /** Edges found on the picture and offered as straight marks. */
    offered: [] as Curve[],
    /** What the last measurement of the lens said. */
    said: ''
  });
  return view;
});

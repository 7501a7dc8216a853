import type { TrueUpMode } from '$core/steps/lines/solve-rotation.ts';
import { stepView } from '../parts/step-view.ts';

export type LinesPage = 'marks' | 'hand' | 'lengths' | 'residuals';
/** What a press on the picture does in the Lines step. */
export type LinesTool = 'plumb' | 'level' | 'edge' | 'choose' | 'rectangle' | 'length';

export const linesView = stepView(() => {
  const view = $state({
    page: 'marks' as LinesPage,
    tool: 'plumb' as LinesTool,
    /** Ids of the marks that are chosen together. */
    chosen: [] as string[],
    /** The edge that the level tool was last drawn along. */
    edge: null as string | null,
    /** What truing up last said, and whether it is under way. */
    said: '',
    finding: false,
    /** Lines were looked for, and none was sure enough to true up from. */
    noLines: false,
    /** What is solved from the marks beside the rotation. */
    solveFocal: false,
    solveBow: false,
    mode: 'verticals' as TrueUpMode
  });
  return view;
});

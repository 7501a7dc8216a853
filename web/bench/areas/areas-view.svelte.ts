import type { Point } from '$core/math/frame-geometry.ts';
import type { Meeting } from '$core/steps/areas/parts/part-base.ts';
import type { Histogram } from '../../preview/messages.ts';
import { stepView } from '../parts/step-view.ts';

export type AreasPage =
  'shape' | 'edge' | 'light' | 'local' | 'levels' | 'curve' | 'colour' | 'hues' | 'revision' | 'sky';
/** What a press on the picture does: draws a part, picks a colour, or moves what is there. */
export type AreasTool = 'move' | 'gradient' | 'radial' | 'polygon' | 'lasso' | 'brush' | 'colour' | 'beside';
/** How the mask of the chosen area is shown. */
export type MaskShown = 'hatching' | 'grey' | 'none';

/** As the picture's, weighted by how much of each pixel is covered. */
export type AreaHistogram = Pick<Histogram, 'counts' | 'luminance'>;

export const areasView = stepView(() => {
  const view = $state({
    page: 'shape' as AreasPage,
    tool: 'gradient' as AreasTool,
    /** The area that is worked on, and the part of its shape. */
    area: null as string | null,
    /** Others that are changed together with it: switched, mixed in, put into a group. */
    also: [] as string[],
    /** Names of groups whose areas are not listed. */
    folded: [] as string[],
    part: null as string | null,
    /** How the next part meets the others. */
    meets: 'add' as Meeting,
    shown: 'hatching' as MaskShown,
    /** What the area does was just set, and is judged: the mask does not cover it. */
    judging: false,
    /** The brush in hand; its size in thousandths of half the diagonal. */
    brush: { size: 60, softness: 60, flow: 100, cap: 100, erases: false, keepsEdges: false },
    /** Share of the crop that the chosen area covers, 0..1. */
    cover: null as number | null,
    /** How light what it covers is shown, from black to white; and red, green and blue of it. */
    histogram: null as AreaHistogram | null,
    /** Corners of a polygon that is being drawn, as field positions. */
    corners: [] as Point[],
    said: ''
  });
  return view;
});

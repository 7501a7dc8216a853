/** What a picture shows by itself of plumb, level and straight: evidence for the readings where nothing is marked. */
import { halfDiagonal } from '../../math/frame-geometry.ts';
import { longEdges } from '../../measure/edges/long-edges.ts';
import type { GreyPlane } from '../../measure/edges/trace-polyline.ts';
import { type Curve, thinned } from '../../optics/curve.ts';
import { straightEdges } from '../../steps/lens/straight-edges.ts';
import { foundMarks } from '../../steps/lines/found-marks.ts';
import { type LookForLinesOptions, lookForLines } from '../../steps/lines/look-for-lines.ts';
import { type Mark, aligns } from '../../steps/lines/mark.ts';
import type { TrueUpItself } from '../../steps/lines/true-up-itself.ts';

export interface FoundEvidence {
  /** Plumb lines, and level ones that run across the picture. */
  marks: Mark[];
  /** Standard errors in degrees of the direction that the plumb and the level lines have. */
  plumbError: number;
  levelError: number;
  curves: Curve[];
  /** Standard error of the bow in the curves, RMS in field units. */
  straightError: number;
}

/** How well edges are placed on a proxy, in its pixels. */
const EDGE_ERROR = 0.25;
/** Points kept of an edge, and edges kept. */
const MOST_POINTS = 16;
const MOST_CURVES = 16;
/** RMS distance of plumb lines from the middle, over the focal length, as a rule: by so much a wrong pitch leans them. */
const PITCH_LEANS = 0.3;

export interface LookedAt {
  lines: TrueUpItself;
  /** Long edges, straight or not, as the glass put them. */
  curves: Curve[];
  evidence: FoundEvidence;
}

/** Looks for lines and long edges in a proxy. Where none are sure, the evidence of that kind is empty. */
export function lookAtPicture(plane: GreyPlane, options: LookForLinesOptions): LookedAt {
  const { model, toField } = options;
  const lines = lookForLines(plane, options);
  const curves = longEdges(plane, toField);
  const straight = straightEdges(curves, { model, noise: EDGE_ERROR / halfDiagonal(plane) });
  return {
    lines,
    curves,
    evidence: {
      marks: lines.ok ? foundMarks(lines, model, 'verticals').filter(aligns) : [],
      plumbError: lines.ok ? Math.hypot(lines.rollError, PITCH_LEANS * lines.pitchError) : 0,
      levelError: lines.ok ? lines.rollError : 0,
      curves: (straight?.curves ?? [])
        .slice(0, MOST_CURVES)
        .map(({ id, points }) => ({ id, points: thinned(points, MOST_POINTS) })),
      straightError: straight?.error ?? 0
    }
  };
}

import type { Point } from '../../math/frame-geometry.ts';
import type { Curve } from '../../optics/curve.ts';
import { findCurves } from './find-curves.ts';
import type { GreyPlane } from './trace-polyline.ts';

/** Long edges of a picture, straight or gently bent, as the glass put them: those first that say most about the lens. */
export const longEdges = (plane: GreyPlane, toField: (place: Point) => Point): Curve[] =>
  findCurves(plane).map(({ points }, i) => ({ id: `found-edge-${i + 1}`, points: points.map(toField) }));

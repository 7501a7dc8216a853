/** Straight lines all over a picture, as a known lens shows them: for tests of what a correction leaves. */
import { type FrameSize, type Point, halfDiagonal } from '../../core/math/frame-geometry.ts';
import type { Curve } from '../../core/optics/curve.ts';
import { type LensShape, distort, lensModel, undistort } from '../../core/optics/lens-model.ts';
import { IDENTITY } from '../../core/math/matrix3.ts';
import { straightness } from '../../core/render/readings/straightness.ts';

export interface NetOptions {
  /** Lines in each direction (default 9). */
  lines?: number;
  /** Share of the frame that they span (default 0.97). */
  span?: number;
}

/** Straight lines between points of the frame's border, bent by a lens. */
export function straightNet(
  truth: Partial<LensShape>,
  size: FrameSize,
  { lines = 9, span = 0.97 }: NetOptions = {}
): Curve[] {
  const unit = halfDiagonal(size);
  const [hw, hh] = [(size.width / 2 / unit) * span, (size.height / 2 / unit) * span];
  const model = lensModel(truth);
  return Array.from({ length: 2 * lines }, (_, n) => {
    const k = (2 * (n % lines)) / (lines - 1) - 1;
    const [a, b]: [Point, Point] =
      n < lines
        ? [
            [-hw, k * hh],
            [hw, k * hh]
          ]
        : [
            [k * hw, -hh],
            [k * hw, hh]
          ];
    const [p, q] = [undistort(a, model), undistort(b, model)];
    const points = Array.from({ length: 40 }, (_, i): Point =>
      distort([p[0] + ((q[0] - p[0]) * i) / 39, p[1] + ((q[1] - p[1]) * i) / 39], model)
    );
    return { id: String(n), points };
  });
}

/** RMS bow, in pixels, that a correction leaves in lines all over the frame. */
export function bowLeft(
  truth: Partial<LensShape>,
  found: Partial<LensShape>,
  size: FrameSize,
  options?: NetOptions
): number {
  const projection = { size, focal: 1, model: lensModel(found), rotation: IDENTITY };
  return straightness(straightNet(truth, size, options), projection)!.rms;
}

/** Plumb edges of the scene as they stand in an exported picture. */
import { type Point, halfDiagonal } from '../../core/math/frame-geometry.ts';
import { lensModel } from '../../core/optics/lens-model.ts';
import { rotationFromAngles } from '../../core/math/rotation.ts';
import { type Projection, sensorToUpright } from '../../core/picture/geometry/projection.ts';
import { type CameraSetup, projectPoint, setupLens } from '../../scenes/camera/capture.ts';
import { traceVerticalEdge } from '../../scenes/trace-edge.ts';
import type { TrueEdge } from '../../scenes/trace/scene.ts';
import type { Report } from '../../server/render/report.ts';

interface Grey {
  width: number;
  height: number;
  data: Uint8Array;
}

/**
 * Angles from vertical, in degrees, measured in the picture itself: where to look comes from the scene and the report.
 */
export function exportedVerticals(
  picture: Grey,
  report: Report,
  setup: CameraSetup,
  edges: readonly TrueEdge[]
): { angle: number; length: number }[] {
  const unit = halfDiagonal(setup.size);
  const projection: Projection = {
    size: setup.size,
    focal: setupLens(setup).focal,
    model: lensModel({ terms: report.lens.distortion }, report.lens.amount, report.lens.lateral),
    rotation: rotationFromAngles(report.rotation)
  };
  const { crop } = report;
  const scale = picture.width / (crop.width * unit);
  const placeOf = (world: [number, number, number]): Point | null => {
    const sensor = projectPoint(world, setup);
    const upright = sensor && sensorToUpright(sensor, projection);
    return (
      upright && [
        ((upright[0] - crop.x) * unit + (crop.width * unit) / 2) * scale,
        ((upright[1] - crop.y) * unit + (crop.height * unit) / 2) * scale
      ]
    );
  };
  return edges
    .filter((edge) => edge.kind === 'plumb')
    .flatMap((edge) => {
      const [a, b] = [placeOf(edge.a), placeOf(edge.b)];
      if (!a || !b) return [];
      const angle = traceVerticalEdge(picture, [a, b], 60);
      return angle === null ? [] : [{ angle, length: Math.abs(b[1] - a[1]) }];
    });
}

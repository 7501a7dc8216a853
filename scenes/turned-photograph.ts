/** A photograph as its camera would have taken it a little turned: the truth of the turn is known, of the building it is not. */
import { type Point, halfDiagonal } from '../core/math/frame-geometry.ts';
import { apply, transpose } from '../core/math/matrix3.ts';
import { type Angles, rotationFromAngles } from '../core/math/rotation.ts';
import { type GreyPlane, valueAt } from '../core/measure/edges/trace-polyline.ts';

/**
 * The middle of a picture after the camera was turned by so much, as large as it may be without a blank corner: a smaller
 * field at the same scale, so that the focal length in field units grows; both are given back.
 */
export function turned(
  plane: GreyPlane,
  angles: Angles,
  focal: number
): { plane: GreyPlane; focal: number } | null {
  const unit = halfDiagonal(plane);
  // From the new view to where the old one has it.
  const back = transpose(rotationFromAngles(angles));
  const sourceOf = (x: number, y: number): Point | null => {
    const [X, Y, Z] = apply(back, [x / focal, y / focal, 1]);
    if (Z < 0.1) return null;
    return [plane.width / 2 + ((focal * X) / Z) * unit, plane.height / 2 + ((focal * Y) / Z) * unit];
  };
  const holds = (share: number): boolean =>
    [-1, -0.5, 0, 0.5, 1].every((a) =>
      [-1, 1].every((b) =>
        [
          [a, b],
          [b, a]
        ].every(([u, v]) => {
          const at = sourceOf((u * share * plane.width) / 2 / unit, (v * share * plane.height) / 2 / unit);
          return at !== null && at[0] > 1 && at[1] > 1 && at[0] < plane.width - 1 && at[1] < plane.height - 1;
        })
      )
    );
  let share = 1;
  while (share > 0.4 && !holds(share)) share -= 0.01;
  if (!holds(share)) return null;
  const [width, height] = [Math.floor(plane.width * share), Math.floor(plane.height * share)];
  const data = new Float32Array(width * height);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const at = sourceOf((x + 0.5 - width / 2) / unit, (y + 0.5 - height / 2) / unit)!;
      data[y * width + x] = valueAt(plane, at[0], at[1]);
    }
  const own = { width, height, data };
  return { plane: own, focal: (focal * unit) / halfDiagonal(own) };
}

/** Gaussian blur. */
import { lineOf, loadPart, storePart } from './vectors';

/**
 * A plane, in place, by weights along both directions, 2 reach + 1 of them; what lies beyond its edges is as they are. `across`: a plane
 * of work.
 */
export function blurPlane(
  plane: usize,
  width: i32,
  height: i32,
  weights: usize,
  reach: i32,
  across: usize
): void {
  const bytes = (<usize>width) << 2;
  for (let row = 0; row < height; row++) {
    const from = plane + <usize>row * bytes;
    const to = across + <usize>row * bytes;
    for (let x = 0; x < width;) {
      if (x >= reach && x + 4 + reach <= width) {
        let sum = f32x4.splat(0);
        for (let k = -reach; k <= reach; k++)
          sum = f32x4.add(
            sum,
            f32x4.mul(
              v128.load32_splat(weights + ((<usize>(k + reach)) << 2)),
              v128.load(from + ((<usize>(x + k)) << 2))
            )
          );
        v128.store(to + ((<usize>x) << 2), sum);
        x += 4;
      } else {
        let sum: f32 = 0;
        for (let k = -reach; k <= reach; k++)
          sum +=
            load<f32>(weights + ((<usize>(k + reach)) << 2)) *
            load<f32>(from + ((<usize>max(0, min(width - 1, x + k))) << 2));
        store<f32>(to + ((<usize>x) << 2), sum);
        x++;
      }
    }
  }
  for (let row = 0; row < height; row++)
    for (let x = 0; x < width; x += 4) {
      const at = (<usize>x) << 2;
      let sum = f32x4.splat(0);
      for (let k = -reach; k <= reach; k++)
        sum = f32x4.add(
          sum,
          f32x4.mul(
            v128.load32_splat(weights + ((<usize>(k + reach)) << 2)),
            loadPart(across + lineOf(row + k, height, bytes) + at, width - x)
          )
        );
      storePart(plane + <usize>row * bytes + at, sum, width - x);
    }
}

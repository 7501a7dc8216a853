/** Bilinear value of a plane at a place; pixel centres are at whole numbers plus a half, and places outside repeat the border. */
export function bilinear(plane: Float32Array, width: number, height: number, x: number, y: number): number {
  const px = Math.min(Math.max(x - 0.5, 0), width - 1);
  const py = Math.min(Math.max(y - 0.5, 0), height - 1);
  const ix = px | 0;
  const iy = py | 0;
  const right = ix < width - 1 ? 1 : 0;
  const below = iy < height - 1 ? width : 0;
  const fx = px - ix;
  const fy = py - iy;
  const at = iy * width + ix;
  return (
    (plane[at] * (1 - fx) + plane[at + right] * fx) * (1 - fy) +
    (plane[at + below] * (1 - fx) + plane[at + below + right] * fx) * fy
  );
}

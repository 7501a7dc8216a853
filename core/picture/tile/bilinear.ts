/** Bilinear value of a plane at a place; pixel centres are at whole numbers plus a half, and places outside repeat the border. */
export function bilinear(plane: Float32Array, width: number, height: number, x: number, y: number): number {
  const px = Math.min(Math.max(x - 0.5, 0), width - 1.001);
  const py = Math.min(Math.max(y - 0.5, 0), height - 1.001);
  const ix = px | 0;
  const iy = py | 0;
  const fx = px - ix;
  const fy = py - iy;
  const at = iy * width + ix;
  return (
    (plane[at] * (1 - fx) + plane[at + 1] * fx) * (1 - fy) +
    (plane[at + width] * (1 - fx) + plane[at + width + 1] * fx) * fy
  );
}

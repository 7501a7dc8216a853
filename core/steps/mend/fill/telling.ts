/** How much each pixel of a rim tells of places within it: the nearer, the more. */

/** Shares that sum to 1, one a pixel, written to `out`; `width`: of the window; nearer than `soft` pixels none tells more. */
export function tellingShares(
  [x, y]: readonly [number, number],
  rim: Int32Array,
  width: number,
  soft: number,
  out: Float32Array
): Float32Array {
  let total = 0;
  for (let i = 0; i < rim.length; i++) {
    const [dx, dy] = [(rim[i] % width) - x, Math.floor(rim[i] / width) - y];
    total += out[i] = 1 / (dx * dx + dy * dy + soft * soft);
  }
  for (let i = 0; i < rim.length; i++) out[i] /= total;
  return out;
}

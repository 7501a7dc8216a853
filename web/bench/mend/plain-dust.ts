/** A picture in which dust is plain to see: each pixel against the mean about it, many times enlarged, in grey. */

/** How far about a pixel the mean is taken, in pixels, and how much what is left is enlarged. */
const REACH = 14;
const TIMES = 9;

/** RGBA of the size of what was given. */
export function plainDust(
  pixels: Uint8ClampedArray,
  width: number,
  height: number
): Uint8ClampedArray<ArrayBuffer> {
  // Sums up to each pixel, of light and of pixels that are there: the surround is no picture.
  const light = new Float64Array((width + 1) * (height + 1));
  const there = new Float64Array((width + 1) * (height + 1));
  const own = new Float32Array(width * height);
  for (let y = 0; y < height; y++) {
    let [row, count] = [0, 0];
    for (let x = 0; x < width; x++) {
      const at = (y * width + x) * 4;
      const share = pixels[at + 3] > 0 ? 1 : 0;
      own[y * width + x] = 0.2126 * pixels[at] + 0.7152 * pixels[at + 1] + 0.0722 * pixels[at + 2];
      row += share * own[y * width + x];
      count += share;
      const sum = (y + 1) * (width + 1) + x + 1;
      light[sum] = light[sum - width - 1] + row;
      there[sum] = there[sum - width - 1] + count;
    }
  }
  const out = new Uint8ClampedArray(width * height * 4);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const [left, right] = [Math.max(0, x - REACH), Math.min(width, x + REACH + 1)];
      const [top, bottom] = [
        Math.max(0, y - REACH) * (width + 1),
        Math.min(height, y + REACH + 1) * (width + 1)
      ];
      const about = (sums: Float64Array): number =>
        sums[bottom + right] - sums[top + right] - sums[bottom + left] + sums[top + left];
      const at = y * width + x;
      out.fill(128 + TIMES * (own[at] - about(light) / Math.max(1, about(there))), at * 4, at * 4 + 3);
      out[at * 4 + 3] = pixels[at * 4 + 3];
    }
  return out;
}

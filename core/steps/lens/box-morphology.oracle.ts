/** Grey morphology with square windows, pixel by pixel: for pictures in which few pixels are of interest. */

/** Least value within a square of 2 radius + 1 pixels about a pixel. Values are not negative: nothing is less than 0. */
export function leastAbout(
  plane: Float32Array,
  width: number,
  height: number,
  index: number,
  radius: number
): number {
  const cx = index % width;
  const cy = (index - cx) / width;
  let least = plane[index];
  for (let y = Math.max(0, cy - radius); y <= Math.min(height - 1, cy + radius); y++) {
    const last = y * width + Math.min(width - 1, cx + radius);
    for (let at = y * width + Math.max(0, cx - radius); at <= last; at++) {
      if (plane[at] < least) {
        least = plane[at];
        if (least <= 0) return least;
      }
    }
  }
  return least;
}

/** Greatest value within a square of 2 radius + 1 pixels about a pixel. */
export function greatestAbout(
  plane: Float32Array,
  width: number,
  height: number,
  index: number,
  radius: number
): number {
  const cx = index % width;
  const cy = (index - cx) / width;
  let greatest = plane[index];
  for (let y = Math.max(0, cy - radius); y <= Math.min(height - 1, cy + radius); y++) {
    const last = y * width + Math.min(width - 1, cx + radius);
    for (let at = y * width + Math.max(0, cx - radius); at <= last; at++) {
      if (plane[at] > greatest) greatest = plane[at];
    }
  }
  return greatest;
}

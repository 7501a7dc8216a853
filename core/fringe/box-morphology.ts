/** Grey morphology with square windows, a row and a column pass each (van Herk 1992 would pay for wide windows only). */
type Extreme = (a: number, b: number) => number;

/** Largest (Math.max) or smallest (Math.min) value within a square of 2 radius + 1 pixels. */
export function spreadBox(
  plane: Float32Array,
  width: number,
  height: number,
  radius: number,
  extreme: Extreme
): Float32Array {
  const greatest = extreme === Math.max;
  const across = new Float32Array(plane.length);
  for (let y = 0; y < height; y++) {
    const row = y * width;
    for (let x = 0; x < width; x++) {
      let best = plane[row + x];
      const last = Math.min(width - 1, x + radius);
      for (let n = Math.max(0, x - radius); n <= last; n++) {
        const value = plane[row + n];
        if (greatest ? value > best : value < best) best = value;
      }
      across[row + x] = best;
    }
  }
  const out = new Float32Array(plane.length);
  for (let y = 0; y < height; y++) {
    const row = y * width;
    out.set(across.subarray(row, row + width), row);
    const last = Math.min(height - 1, y + radius);
    for (let n = Math.max(0, y - radius); n <= last; n++) {
      if (n === y) continue;
      const other = n * width;
      for (let x = 0; x < width; x++) {
        const value = across[other + x];
        if (greatest ? value > out[row + x] : value < out[row + x]) out[row + x] = value;
      }
    }
  }
  return out;
}

/** Opening: what is left of the bright parts that a window of 2 radius + 1 pixels fits into. */
export function openBox(plane: Float32Array, width: number, height: number, radius: number): Float32Array {
  return spreadBox(spreadBox(plane, width, height, radius, Math.min), width, height, radius, Math.max);
}

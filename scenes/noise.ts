/** Fixed noise over the plane, for textures. */

/** A fixed pseudo-random value in 0..1 for a pair of whole numbers. */
export function hash2(x: number, y: number): number {
  let h = Math.imul(x | 0, 374761393) ^ Math.imul(y | 0, 668265263);
  h = Math.imul(h ^ (h >>> 13), 1274126177);
  return ((h ^ (h >>> 16)) >>> 0) / 4294967296;
}

/** Smooth noise in 0..1 with features about one unit across. */
export function valueNoise(x: number, y: number): number {
  const ix = Math.floor(x);
  const iy = Math.floor(y);
  const fx = x - ix;
  const fy = y - iy;
  const sx = fx * fx * (3 - 2 * fx);
  const sy = fy * fy * (3 - 2 * fy);
  const top = hash2(ix, iy) * (1 - sx) + hash2(ix + 1, iy) * sx;
  const bottom = hash2(ix, iy + 1) * (1 - sx) + hash2(ix + 1, iy + 1) * sx;
  return top * (1 - sy) + bottom * sy;
}

/** Sum of noises at halving sizes, 0..1. */
export function fractalNoise(x: number, y: number, octaves = 4): number {
  let sum = 0;
  let weight = 0.5;
  let total = 0;
  for (let i = 0; i < octaves; i++) {
    sum += weight * valueNoise(x, y);
    total += weight;
    weight /= 2;
    x = x * 2.03 + 17.1;
    y = y * 2.01 + 5.7;
  }
  return sum / total;
}

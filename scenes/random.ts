/** A seeded generator of uniform numbers in 0..1 (mulberry32), so that every picture is the same each time. */
export type Random = () => number;

export function seededRandom(seed: number): Random {
  let state = seed >>> 0;
  return () => {
    state = (state + 0x6d2b79f5) >>> 0;
    let t = state;
    t = Math.imul(t ^ (t >>> 15), t | 1);
    t ^= t + Math.imul(t ^ (t >>> 7), t | 61);
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
  };
}

/** A number of the standard normal distribution (Box & Muller 1958). */
export const gaussian = (random: Random): number =>
  Math.sqrt(-2 * Math.log(Math.max(1e-12, random()))) * Math.cos(2 * Math.PI * random());

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

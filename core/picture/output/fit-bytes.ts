/**
 * The best quality whose file stays within a limit, in few encodes.
 *
 * The logarithm of a file's size grows with the quality along much the same curve for all pictures. Each encode shifts that
 * curve to the picture at hand; between two encodes that enclose the limit it is stretched to pass through both.
 */

/** Logarithm of the relative size at qualities 1, 10, 20 … 100, over that at 50: means of many photographs. */
const CURVE = [-1.75, -1.05, -0.62, -0.36, -0.16, 0, 0.16, 0.36, 0.64, 1.13, 2.05];
const MOST_ENCODES = 6;
/** A file this near below its limit is good enough. */
const NEAR = 0.95;

const at = (quality: number): number => {
  const place = Math.max(0, Math.min(10, quality <= 1 ? 0 : quality / 10));
  const i = Math.min(9, Math.floor(place));
  return CURVE[i] + (CURVE[i + 1] - CURVE[i]) * (place - i);
};

/** Quality (1..100) at which the curve takes a value. */
function inverse(value: number): number {
  let [low, high] = [1, 100];
  for (let n = 0; n < 20; n++) {
    const middle = (low + high) / 2;
    if (at(middle) < value) low = middle;
    else high = middle;
  }
  return low;
}

export interface Fitted<T> {
  quality: number;
  encoded: T;
  encodes: number;
}

export type FitResult<T> =
  | ({ ok: true } & Fitted<T>)
  /** Even the lowest quality is too large: its size in bytes. */
  | { ok: false; smallest: number; encodes: number };

export async function fitBytes<T extends { length: number }>(
  encode: (quality: number) => Promise<T>,
  limit: number,
  wanted: number
): Promise<FitResult<T>> {
  let encodes = 0;
  let fits: { quality: number; encoded: T } | null = null;
  let over: { quality: number; size: number } | null = null;
  /** How much faster than the curve the size grows, from the last two that were too large. */
  let steepness = 1;
  let next = wanted;
  /** Tries in a row on the same side of the limit: the curve is another than thought, and halving is surer. */
  let sameSide = 0;
  let lastFits = false;
  for (;;) {
    const encoded = await encode(next);
    encodes++;
    sameSide = encodes > 1 && encoded.length <= limit === lastFits ? sameSide + 1 : 0;
    lastFits = encoded.length <= limit;
    if (encoded.length <= limit) {
      if (!fits || next > fits.quality) fits = { quality: next, encoded };
      // What was asked for fits, or nothing between is left to try, or it is near enough.
      if (next >= wanted || encoded.length >= NEAR * limit) break;
    } else {
      if (next <= 1) return { ok: false, smallest: encoded.length, encodes };
      if (over && next < over.quality)
        steepness = Math.log(over.size / encoded.length) / (at(over.quality) - at(next));
      if (!over || next < over.quality) over = { quality: next, size: encoded.length };
    }
    if (encodes >= MOST_ENCODES) break;
    const [low, high]: [number, number] = [fits?.quality ?? 0, over?.quality ?? wanted + 1];
    if (high - low <= 1) break;
    const target = Math.log(limit * 0.985);
    let guess: number;
    if (fits && over) {
      const below = Math.log(fits.encoded.length);
      const share = (target - below) / (Math.log(over.size) - below);
      guess = inverse(at(fits.quality) + share * (at(over.quality) - at(fits.quality)));
      if (sameSide > 0) guess = (guess + (lastFits ? over.quality : fits.quality)) / 2;
    } else if (over)
      guess = inverse(at(over.quality) + (target - Math.log(over.size)) / Math.max(0.2, steepness));
    else break;
    next = Math.max(low + 1, Math.min(high - 1, Math.round(guess)));
    // The last one has to fit: without one that does, it is the lowest quality.
    if (!fits && encodes === MOST_ENCODES - 1) next = 1;
    else if (!fits && encodes >= 4) next = Math.max(1, Math.min(next, Math.floor(high / 3)));
  }
  return { ok: true, ...fits!, encodes };
}

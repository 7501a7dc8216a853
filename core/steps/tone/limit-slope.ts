/** The greatest function below values that falls and rises by no more than so much from one to the next. */
function below(values: readonly number[], fall: number, rise: number): number[] {
  const out = [...values];
  for (let i = 1; i < out.length; i++) out[i] = Math.min(out[i], out[i - 1] + rise);
  for (let i = out.length - 2; i >= 0; i--) out[i] = Math.min(out[i], out[i + 1] + fall);
  return out;
}

/** Means over so many values to each side, those at the ends repeated. */
function smoothed(values: readonly number[], radius: number): number[] {
  const at = (i: number): number => values[Math.min(values.length - 1, Math.max(0, i))];
  let sum = 0;
  for (let i = -radius; i <= radius; i++) sum += at(i);
  return values.map((_, i) => {
    const mean = sum / (2 * radius + 1);
    sum += at(i + radius + 1) - at(i - radius);
    return mean;
  });
}

/**
 * Values that fall by no more than `fall` and rise by no more than `rise` from one to the next: half way between the greatest such
 * function below what is wanted and the least above it, without corners within `soft` values.
 */
export function limitSlope(wanted: readonly number[], fall: number, rise: number, soft: number): number[] {
  const low = below(wanted, fall, rise);
  const high = below(
    wanted.map((value) => -value),
    rise,
    fall
  );
  return smoothed(
    low.map((value, i) => (value - high[i]) / 2),
    soft
  );
}

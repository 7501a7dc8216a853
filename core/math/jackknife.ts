/**
 * Mean and standard error of an estimate from what it is without each part of the evidence in turn (Tukey 1958): how much
 * those differ says how well all of it knows.
 */
export function jackknife(without: readonly number[]): { mean: number; error: number } {
  const count = without.length;
  const mean = without.reduce((sum, value) => sum + value, 0) / count;
  const squares = without.reduce((sum, value) => sum + (value - mean) ** 2, 0);
  return { mean, error: Math.sqrt(((count - 1) / count) * squares) };
}

/** Weights of a Gaussian blur along one direction, cut at two and a half deviations. */
export function gaussianWeights(deviation: number): { weights: Float32Array; reach: number } {
  const reach = Math.max(1, Math.ceil(deviation * 2.5));
  const weights = Float32Array.from({ length: 2 * reach + 1 }, (_, i) =>
    Math.exp(-((i - reach) ** 2) / (2 * deviation * deviation))
  );
  const sum = weights.reduce((total, weight) => total + weight, 0);
  return { weights: weights.map((weight) => weight / sum), reach };
}

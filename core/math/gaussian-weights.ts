/** Weights of a Gaussian blur along one direction, cut at so many deviations. */
export function gaussianWeights(deviation: number, cut = 2.5): { weights: Float32Array; reach: number } {
  const reach = Math.max(1, Math.ceil(deviation * cut));
  const weights = Float32Array.from({ length: 2 * reach + 1 }, (_, i) =>
    Math.exp(-((i - reach) ** 2) / (2 * deviation * deviation))
  );
  const sum = weights.reduce((total, weight) => total + weight, 0);
  return { weights: weights.map((weight) => weight / sum), reach };
}

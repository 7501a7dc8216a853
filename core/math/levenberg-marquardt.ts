/** Nonlinear least squares after Levenberg (1944) and Marquardt (1963), with a numerical Jacobian. */
import { CholeskyDecomposition, Matrix } from 'ml-matrix';

export interface LeastSquaresOptions {
  /** Step of each parameter for the Jacobian (default 1e-6). */
  step?: number | readonly number[];
  /** Weight of each residual, from the residuals themselves: a robust loss by iteration (default: all 1). */
  weigh?: (residuals: Float64Array) => Float64Array;
  /** Residuals [from, to) that a parameter touches, when it is not all of them: saves work. */
  touches?: (parameter: number) => [number, number];
  rounds?: number;
}

export interface LeastSquares {
  parameters: number[];
  residuals: Float64Array;
  /** Weighted sum of squares. */
  cost: number;
}

const costOf = (r: Float64Array, w: Float64Array): number =>
  r.reduce((sum, value, i) => sum + w[i] * value * value, 0);

/** Minimises the sum of squares of `residualsOf(parameters)`, whose length must not change. */
export function leastSquares(
  residualsOf: (parameters: readonly number[]) => Float64Array,
  start: readonly number[],
  { step = 1e-6, weigh, touches, rounds = 60 }: LeastSquaresOptions = {}
): LeastSquares {
  const n = start.length;
  const steps = typeof step === 'number' ? new Array<number>(n).fill(step) : step;
  let parameters = [...start];
  let residuals = residualsOf(parameters);
  const ones = new Float64Array(residuals.length).fill(1);
  let weights = weigh ? weigh(residuals) : ones;
  let cost = costOf(residuals, weights);
  let damping = 1e-3;
  for (let round = 0; round < rounds; round++) {
    const columns: { from: number; values: Float64Array }[] = [];
    for (let p = 0; p < n; p++) {
      const moved = [...parameters];
      moved[p] += steps[p];
      const [from, to] = touches?.(p) ?? [0, residuals.length];
      const after = residualsOf(moved);
      const values = new Float64Array(to - from);
      for (let i = from; i < to; i++) values[i - from] = (after[i] - residuals[i]) / steps[p];
      columns.push({ from, values });
    }
    const normal = Matrix.zeros(n, n);
    const right = Matrix.zeros(n, 1);
    for (let p = 0; p < n; p++) {
      const a = columns[p];
      for (let q = p; q < n; q++) {
        const b = columns[q];
        const from = Math.max(a.from, b.from);
        const to = Math.min(a.from + a.values.length, b.from + b.values.length);
        let sum = 0;
        for (let i = from; i < to; i++) sum += weights[i] * a.values[i - a.from] * b.values[i - b.from];
        normal.set(p, q, sum);
        normal.set(q, p, sum);
      }
      let sum = 0;
      for (let i = 0; i < a.values.length; i++)
        sum += weights[a.from + i] * a.values[i] * residuals[a.from + i];
      right.set(p, 0, -sum);
    }
    let improved = false;
    for (let attempt = 0; attempt < 8 && !improved; attempt++) {
      const damped = normal.clone();
      for (let p = 0; p < n; p++) damped.set(p, p, normal.get(p, p) * (1 + damping) + 1e-18);
      const cholesky = new CholeskyDecomposition(damped);
      if (cholesky.isPositiveDefinite()) {
        const change = cholesky.solve(right).to1DArray();
        const next = parameters.map((value, p) => value + change[p]);
        const after = residualsOf(next);
        const afterCost = costOf(after, weights);
        if (Number.isFinite(afterCost) && afterCost < cost) {
          improved = true;
          const gain = (cost - afterCost) / cost;
          parameters = next;
          residuals = after;
          weights = weigh ? weigh(residuals) : ones;
          cost = costOf(residuals, weights);
          damping = Math.max(1e-9, damping / 8);
          if (gain < 1e-10 && !weigh) return { parameters, residuals, cost };
        }
      }
      if (!improved) damping *= 6;
    }
    if (!improved) break;
  }
  return { parameters, residuals, cost };
}

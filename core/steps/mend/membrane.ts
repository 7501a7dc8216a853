/**
 * The smooth surface that lays texture of one place into another: it takes the differences about the place over into it, as
 * the solution of Laplace's equation. Pérez, Gangnet & Blake, "Poisson Image Editing" (SIGGRAPH 2003): laying in gradients is
 * adding this surface to the source.
 */

/** Rounds of relaxation, and how far each goes beyond its mean: enough for some forty cells across. */
const ROUNDS = 90;
const BEYOND = 1.75;
const NONE = -1;

/**
 * Fills the cells of `inside` from those of `known` about them; cells that are neither are left out. `values` is changed in
 * place and holds the known ones.
 */
export function fillMembrane(
  values: Float32Array,
  known: Uint8Array,
  inside: Uint8Array,
  columns: number
): void {
  const rows = values.length / columns;
  let [sum, count] = [0, 0];
  for (let at = 0; at < values.length; at++)
    if (known[at]) {
      sum += values[at];
      count++;
    }
  const mean = count > 0 ? sum / count : 0;
  const cells: number[] = [];
  for (let at = 0; at < values.length; at++)
    if (inside[at]) {
      values[at] = mean;
      cells.push(at);
    }
  if (count === 0) return;
  // The four cells about each, as far as there are any.
  const beside = new Int32Array(cells.length * 4);
  const weights = new Float32Array(cells.length);
  cells.forEach((at, n) => {
    const x = at % columns;
    const about = [
      x > 0 ? at - 1 : -1,
      x < columns - 1 ? at + 1 : -1,
      at >= columns ? at - columns : -1,
      at < (rows - 1) * columns ? at + columns : -1
    ].filter((other) => other >= 0 && (known[other] > 0 || inside[other] > 0));
    weights[n] = about.length > 0 ? BEYOND / about.length : 0;
    for (let i = 0; i < 4; i++) beside[n * 4 + i] = about[i] ?? NONE;
  });
  // A cell that counts nothing stands at the end.
  const own = new Float32Array(values.length + 1);
  own.set(values);
  const empty = values.length;
  for (let i = 0; i < beside.length; i++) if (beside[i] === NONE) beside[i] = empty;
  for (let round = 0; round < ROUNDS; round++)
    for (let n = 0; n < cells.length; n++) {
      const at = cells[n];
      const i = n * 4;
      const sum = own[beside[i]] + own[beside[i + 1]] + own[beside[i + 2]] + own[beside[i + 3]];
      if (weights[n] > 0) own[at] += weights[n] * sum - BEYOND * own[at];
    }
  values.set(own.subarray(0, empty));
}

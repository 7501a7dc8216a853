/**
 * The smooth surface that lays texture of one place into another: it takes the differences about the place over into it, as
 * the solution of Laplace's equation. Pérez, Gangnet & Blake, "Poisson Image Editing" (SIGGRAPH 2003): laying in gradients is
 * adding this surface to the source.
 */

/** Rounds of relaxation, and how far each goes beyond its mean: enough for some forty cells across. */
const ROUNDS = 90;
const BEYOND = 1.75;

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
  for (let round = 0; round < ROUNDS; round++)
    for (const at of cells) {
      const x = at % columns;
      let [total, weight] = [0, 0];
      const add = (other: number): void => {
        if (!known[other] && !inside[other]) return;
        total += values[other];
        weight++;
      };
      if (x > 0) add(at - 1);
      if (x < columns - 1) add(at + 1);
      if (at >= columns) add(at - columns);
      if (at < (rows - 1) * columns) add(at + columns);
      if (weight > 0) values[at] += BEYOND * (total / weight - values[at]);
    }
}

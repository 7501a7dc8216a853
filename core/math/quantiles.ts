const BINS = 2000;

/** Values at shares of a plane, by counting: to a 2,000th of its range. */
export function quantiles(values: ArrayLike<number>): (share: number) => number {
  let [least, most] = [Infinity, -Infinity];
  for (let i = 0; i < values.length; i++) {
    least = Math.min(least, values[i]);
    most = Math.max(most, values[i]);
  }
  const perBin = Math.max(1e-9, most - least) / BINS;
  const bins = new Uint32Array(BINS + 1);
  for (let i = 0; i < values.length; i++) bins[Math.floor((values[i] - least) / perBin)]++;
  return (share) => {
    let left = share * values.length;
    let bin = 0;
    while (bin < BINS && (left -= bins[bin]) > 0) bin++;
    return least + bin * perBin;
  };
}

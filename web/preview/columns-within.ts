/** Columns (or rows) whose middles lie in a stretch: the first, and the one after the last. */
export function columnsWithin(
  start: number,
  pixel: number,
  count: number,
  middle: number,
  size: number
): [from: number, to: number] {
  const before = (place: number): number =>
    Math.min(count, Math.max(0, Math.ceil((place - start) / pixel - 0.5)));
  return [before(middle - size / 2), before(middle + size / 2)];
}

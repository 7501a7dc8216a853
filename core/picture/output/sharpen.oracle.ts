/**
 * What sharpening has to be, from its definition alone: unsharp masking by a Gaussian in two dimensions, cut at two and a half
 * deviations, of the luma of Rec. 709 (ITU-R BT.709), kept within the range of the nine pixels about each and 1.2 % of the
 * scale. For tests alone.
 */
export function sharpenedLuma(
  luma: (x: number, y: number) => number,
  x: number,
  y: number,
  { radius, amount }: { radius: number; amount: number }
): number {
  const far = Math.max(1, Math.ceil(2.5 * radius));
  let [weighed, weights] = [0, 0];
  for (let dy = -far; dy <= far; dy++)
    for (let dx = -far; dx <= far; dx++) {
      const weight = Math.exp(-(dx * dx + dy * dy) / (2 * radius ** 2));
      weighed += weight * luma(x + dx, y + dy);
      weights += weight;
    }
  const nine = [-1, 0, 1].flatMap((dy) => [-1, 0, 1].map((dx) => luma(x + dx, y + dy)));
  const wanted = luma(x, y) + amount * (luma(x, y) - weighed / weights);
  return Math.min(Math.max(...nine) + 0.012, Math.max(Math.min(...nine) - 0.012, wanted));
}

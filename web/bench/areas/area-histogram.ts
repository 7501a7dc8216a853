/** The histogram of what an area covers, from small pictures of the crop and of its mask. */
import { LUMINANCE_SRGB } from '$core/colour/primaries.ts';
import type { AreaHistogram } from './areas-view.svelte.ts';

/** Pixels of four bytes each; what is not covered, or lies outside of the frame, does not count. */
export function areaHistogram(
  picture: Uint8ClampedArray,
  mask: Uint8ClampedArray
): AreaHistogram & { cover: number | null } {
  const plane = (): number[] => new Array<number>(256).fill(0);
  const [luminance, red, green, blue] = [plane(), plane(), plane(), plane()];
  const [toRed, toGreen, toBlue] = LUMINANCE_SRGB;
  let [sum, count] = [0, 0];
  for (let i = 0; i < mask.length; i += 4) {
    if (mask[i + 3] === 0) continue;
    const weight = mask[i] / 255;
    sum += weight;
    count++;
    if (weight === 0) continue;
    const [r, g, b] = [picture[i], picture[i + 1], picture[i + 2]];
    red[r] += weight;
    green[g] += weight;
    blue[b] += weight;
    luminance[Math.round(toRed * r + toGreen * g + toBlue * b)] += weight;
  }
  return { luminance, counts: [red, green, blue], cover: count === 0 ? null : sum / count };
}

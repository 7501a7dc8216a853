/** The cast of each zone: what nearly grey places of the picture have of colour, as a rule. */
import { toOklab } from '../../colour/oklab.ts';
import { type Matrix3, apply } from '../../math/matrix3.ts';
import type { FrameLight } from '../../measure/light/frame-light.ts';
import type { ColourSettings } from './step.ts';
import { zoneWeights } from './zones.ts';

/** Chroma up to which a place counts as grey with a cast, and what of it counts in full. */
const MOST_CHROMA = 0.09;
const LIGHTEST = 0.98;
const DARKEST = 0.12;
/** Weight of places without which a zone has no cast that could be told. */
const LEAST = 50;

/** `toned`: what stands between the frame's colours and those that the cast is taken from. */
export function suggestCast(
  { colours }: Pick<FrameLight, 'colours'>,
  toned: Matrix3
): ColourSettings['castFound'] {
  const sums = Array.from({ length: 3 }, () => ({ a: 0, b: 0, weight: 0 }));
  for (let i = 0; i < colours[0].length; i++) {
    const colour = apply(toned, [colours[0][i], colours[1][i], colours[2][i]]);
    const [light, a, b] = toOklab(colour);
    if (light < DARKEST || light > LIGHTEST) continue;
    const chroma = Math.hypot(a, b);
    if (chroma > MOST_CHROMA) continue;
    const sure = (1 - (chroma / MOST_CHROMA) ** 2) ** 2;
    zoneWeights(light).forEach((share, z) => {
      sums[z].a += a * share * sure;
      sums[z].b += b * share * sure;
      sums[z].weight += share * sure;
    });
  }
  const [shadows, middle, highlights] = sums.map(({ a, b, weight }) =>
    weight < LEAST ? { a: 0, b: 0 } : { a: round(a / weight), b: round(b / weight) }
  );
  return { shadows, middle, highlights };
}

const round = (value: number): number => Math.round(value * 1e4) / 1e4;

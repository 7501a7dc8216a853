/** Ranges: what is as light as that, or coloured like that, wherever it lies. */
import { toOklab } from '../../../colour/oklab.ts';
import type { Point } from '../../../math/frame-geometry.ts';
import { smoothstep } from '../../../math/smoothstep.ts';
import { percent } from '../../../settings/percent-schema.ts';
import { point } from '../../../settings/point-schema.ts';
import { type Grid, toCells } from '../../../picture/tile/grid.ts';
import type { Guide } from '../guide.ts';

/** Stops about white that light is told in. */
export const STOPS = [-12, 4] as const;
/** Places that the colours of one range are picked at. */
export const MOST_PICKS = 12;

/** A light, in stops about white. */
export const stop = (label: string, usual: number, description: string) =>
  ({
    type: 'number',
    default: usual,
    minimum: STOPS[0],
    maximum: STOPS[1],
    step: 0.1,
    unit: 'EV',
    label,
    description
  }) as const;
/** Stops that a range of light fades over. */
export const fade = {
  type: 'number',
  default: 1,
  minimum: 0,
  maximum: 6,
  step: 0.1,
  unit: 'EV',
  label: 'Fade',
  description: 'Stops that the range fades over beyond both of its ends.'
} as const;

export const lightProperties = {
  low: stop('Darkest', -3, 'The darkest light that is meant, in stops about white.'),
  high: stop(
    'Lightest',
    0,
    'The lightest light that is meant; where the two are turned round, it is as well.'
  ),
  feather: fade
} as const;

export interface LightRange {
  low: number;
  high: number;
  feather: number;
}

/** How much a light belongs to a range, 0..1. */
export function lightShare({ low, high, feather }: LightRange, stops: number): number {
  const [from, to] = low <= high ? [low, high] : [high, low];
  const soft = Math.max(0.02, feather);
  return smoothstep(from - soft, from, stops) * (1 - smoothstep(to, to + soft, stops));
}

export function drawLightRange(part: LightRange, out: Float32Array, { stops }: Guide): void {
  for (let i = 0; i < out.length; i++) out[i] = lightShare(part, stops[i]);
}

export const colourProperties = {
  /** Places whose colours are meant. */
  picks: { type: 'array', maxItems: MOST_PICKS, items: point },
  tolerance: percent('Tolerance', 30, 'How unlike to the picked colours a colour may be.'),
  feather: percent('Fade', 60, 'Share of the tolerance that it fades over.')
} as const;

export interface ColourRange {
  picks: readonly Point[];
  tolerance: number;
  feather: number;
}

/** Distance in OKLab of the widest tolerance, and how much a difference of lightness counts in it. */
const WIDEST = 0.25;
const LIGHTNESS = 0.35;
/** Cells about a pick whose mean is its colour. */
const ABOUT = 1;

export function drawColourRange(
  { picks, tolerance, feather }: ColourRange,
  grid: Grid,
  out: Float32Array,
  { colours }: Guide
): void {
  const wanted = picks.map((pick) => pickedLab(toCells(grid, pick), grid, colours));
  const reach = Math.max(0.004, (tolerance / 100) * WIDEST);
  const inner = reach * (1 - feather / 100);
  for (let i = 0; i < out.length; i++) {
    const [l, a, b] = toOklab([colours[0][i], colours[1][i], colours[2][i]]);
    let nearest = Infinity;
    for (const [otherL, otherA, otherB] of wanted)
      nearest = Math.min(nearest, Math.hypot(LIGHTNESS * (otherL - l), otherA - a, otherB - b));
    out[i] = nearest >= reach ? 0 : nearest <= inner ? 1 : 1 - smoothstep(inner, reach, nearest);
  }
}

function pickedLab(
  [x, y]: Point,
  { width, height }: Grid,
  colours: Guide['colours']
): readonly [number, number, number] {
  const [column, row] = [Math.round(x), Math.round(y)];
  const sum: [number, number, number] = [0, 0, 0];
  let count = 0;
  for (let v = Math.max(0, row - ABOUT); v <= Math.min(height - 1, row + ABOUT); v++)
    for (let u = Math.max(0, column - ABOUT); u <= Math.min(width - 1, column + ABOUT); u++) {
      for (let c = 0; c < 3; c++) sum[c] += colours[c][v * width + u];
      count++;
    }
  return count === 0 ? [NaN, NaN, NaN] : toOklab(sum.map((each) => each / count) as typeof sum);
}

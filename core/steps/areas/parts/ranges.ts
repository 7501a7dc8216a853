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
  feather: percent('Fade', 60, 'Share of the tolerance, and of each width, that it fades over.')
} as const;

/** Widths that a range of colours is narrowed to; at their ends they leave it as it is. */
export const colourWidths = {
  hue: {
    type: 'number',
    default: 180,
    minimum: 2,
    maximum: 180,
    fine: [2, 90],
    step: 1,
    unit: '°',
    label: 'Hues',
    description: 'Only hues that are so near to a picked one; at 180° all of them. A grey pick has no hue.'
  },
  strength: percent('Strengths', 100, 'Only colours about as strong as a picked one; at 100 % all of them.'),
  lightness: percent('Lightness', 100, 'Only what is about as light as a picked colour; at 100 % all of it.')
} as const;

export interface ColourRange {
  picks: readonly Point[];
  tolerance: number;
  feather: number;
  hue?: number;
  strength?: number;
  lightness?: number;
}

/** Distance in OKLab of the widest tolerance, and how much a difference of lightness counts in it. */
const WIDEST = 0.25;
const LIGHTNESS = 0.35;
/** Cells about a pick whose mean is its colour. */
const ABOUT = 1;
/** Differences of chroma and of lightness in OKLab at the widest widths. */
const [ALL_STRENGTHS, ALL_LIGHT] = [0.3, 1];
/** Chroma below which a colour has less and less of a hue. */
const GREY = 0.02;

/** How much of a difference lies within a width, of which a share fades. */
function within(difference: number, width: number, feather: number): number {
  const inner = width * (1 - feather / 100);
  return difference >= width ? 0 : difference <= inner ? 1 : 1 - smoothstep(inner, width, difference);
}

type Lab = readonly [l: number, a: number, b: number];

/** Makes a function that tells how much of a colour is left by the widths about a picked one; null: all of them are open. */
function narrowing(
  [l, a, b]: Lab,
  { hue = 180, strength = 100, lightness = 100, feather }: ColourRange
): ((other: Lab) => number) | null {
  if (hue >= 180 && strength >= 100 && lightness >= 100) return null;
  const chroma = Math.hypot(a, b);
  return ([otherL, otherA, otherB]) => {
    let share = 1;
    const other = Math.hypot(otherA, otherB);
    if (lightness < 100)
      share *= within(Math.abs(otherL - l), Math.max(0.01, (lightness / 100) * ALL_LIGHT), feather);
    if (strength < 100)
      share *= within(Math.abs(other - chroma), Math.max(0.004, (strength / 100) * ALL_STRENGTHS), feather);
    if (hue < 180 && chroma > GREY && share > 0) {
      const turned = Math.abs(Math.atan2(a * otherB - b * otherA, a * otherA + b * otherB));
      share *= within((turned * 180) / Math.PI, hue, feather) * Math.min(1, other / GREY);
    }
    return share;
  };
}

export function drawColourRange(
  range: ColourRange,
  grid: Grid,
  out: Float32Array,
  { colours, labs }: Guide
): void {
  const { picks, tolerance, feather } = range;
  const wanted = picks.map((pick) => {
    const lab = pickedLab(toCells(grid, pick), grid, colours);
    return { lab, narrow: narrowing(lab, range) };
  });
  const reach = Math.max(0.004, (tolerance / 100) * WIDEST);
  const [lights, as, bs] = labs();
  for (let i = 0; i < out.length; i++) {
    const [l, a, b] = [lights[i], as[i], bs[i]];
    let most = 0;
    for (const { lab, narrow } of wanted) {
      const share = within(Math.hypot(LIGHTNESS * (lab[0] - l), lab[1] - a, lab[2] - b), reach, feather);
      if (share > most) most = Math.max(most, narrow ? share * narrow([l, a, b]) : share);
    }
    out[i] = most;
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

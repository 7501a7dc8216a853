/**
 * A curve on lightness alone: that of OKLab, where equal steps look equal and hue stays. Chroma narrows towards black and
 * white, where displays have no room for it.
 */
import { ZONE_ENTRY, ZONE_STEPS } from '../colour/zones.ts';
import { pointCurve } from './point-curve.ts';
import type { CurvePoint } from './step.ts';

/** The share of chroma that is left where one lightness becomes another. */
function room(from: number, to: number): number {
  if (to < from) return to / from;
  return from < 1 ? Math.sqrt((1 - to) / (1 - from)) : 1;
}

/** What the curve adds to each lightness, and its factor of chroma, as a table of zones. */
export function lightnessTable(points: readonly CurvePoint[]): Float32Array {
  const curve = pointCurve(points);
  const table = new Float32Array((ZONE_STEPS + 1) * ZONE_ENTRY);
  for (let i = 0; i <= ZONE_STEPS; i++) {
    const from = i / ZONE_STEPS;
    const to = curve(from);
    table.set([0, 0, 0, 0, to - from, room(from, to), 0, 0], i * ZONE_ENTRY);
  }
  return table;
}

/**
 * Lengths on a plane that was made frontal, from one known length on it.
 *
 * In the true picture of a front all lengths are to one scale. What is uncertain is carried along to first order
 * (GUM, JCGM 100:2008, 5.1.2): the ends of both lines, the angles of the correction and the focal length.
 */
import type { Point } from '../../math/frame-geometry.ts';
import { type Projection, fieldToUpright } from '../../picture/geometry/projection.ts';
import { type Angles, anglesFromRotation, rotationFromAngles } from '../../math/rotation.ts';

export const LENGTH_UNITS = ['m', 'cm', 'mm', 'ft', 'in'] as const;
export type LengthUnit = (typeof LENGTH_UNITS)[number];

export interface Measure {
  id: string;
  /** Ends, in field units as the glass put them. */
  a: Point;
  b: Point;
  /** Its length where it is known, in the frame's unit. */
  known?: number;
}

export interface MeasuredLength {
  id: string;
  length: number;
  /** Standard uncertainty, in the same unit; 0 for the known length itself. */
  uncertainty: number;
  known: boolean;
}

export interface MeasureOptions {
  /** Standard error of an end in field units (default: one pixel of a 24 MP frame). */
  endError?: number;
  /** Standard errors of the correction in degrees (default 0.05 each). */
  angles?: Partial<Angles>;
  /** Relative standard error of the focal length (default 0.005). */
  focal?: number;
}

const END_ERROR = 1 / 3600;
const ANGLE_ERROR = 0.05;
const FOCAL_ERROR = 0.005;

function lengthOf(a: Point, b: Point, projection: Projection): number | null {
  const p = fieldToUpright(a, projection);
  const q = fieldToUpright(b, projection);
  return p && q ? Math.hypot(p[0] - q[0], p[1] - q[1]) : null;
}

/** Lengths of all measures in the unit of the known one; null while none is known or it has no length. */
export function measureLengths(
  measures: readonly Measure[],
  projection: Projection,
  { endError = END_ERROR, angles = {}, focal = FOCAL_ERROR }: MeasureOptions = {}
): MeasuredLength[] | null {
  const base = measures.find((measure) => measure.known !== undefined);
  if (!base) return null;
  const lengthIn = (
    measure: Measure,
    by: Projection,
    [a, b, c, d] = [measure.a, measure.b, base.a, base.b]
  ) => {
    const one = lengthOf(a, b, by);
    const other = lengthOf(c, d, by);
    return one !== null && other ? (one / other) * base.known! : null;
  };
  const turned = anglesFromRotation(projection.rotation);
  const views: Projection[] = (['roll', 'pitch', 'yaw'] as const).map((name) => ({
    ...projection,
    rotation: rotationFromAngles({ ...turned, [name]: turned[name] + (angles[name] ?? ANGLE_ERROR) })
  }));
  views.push({ ...projection, focal: projection.focal * (1 + focal) });
  const lengths: MeasuredLength[] = [];
  for (const measure of measures) {
    const length = lengthIn(measure, projection);
    if (length === null) continue;
    if (measure === base) {
      lengths.push({ id: measure.id, length: base.known!, uncertainty: 0, known: true });
      continue;
    }
    let variance = 0;
    const add = (changed: number | null): void => {
      if (changed !== null) variance += (changed - length) ** 2;
    };
    for (const view of views) add(lengthIn(measure, view));
    const ends = [measure.a, measure.b, base.a, base.b];
    for (let i = 0; i < 4; i++) {
      for (const axis of [0, 1]) {
        const moved = ends.map((end) => [...end] as Point);
        moved[i][axis] += endError;
        add(lengthIn(measure, projection, moved as [Point, Point, Point, Point]));
      }
    }
    lengths.push({ id: measure.id, length, uncertainty: Math.sqrt(variance), known: false });
  }
  return lengths;
}

/** Decimals that a value deserves: one more than where its uncertainty begins. */
export function decimalsFor(uncertainty: number): number {
  return uncertainty > 0 ? Math.max(0, Math.min(6, 1 - Math.floor(Math.log10(uncertainty)))) : 3;
}

/** The lengths as CSV (RFC 4180), for a report. */
export function lengthsCsv(lengths: readonly MeasuredLength[], unit: LengthUnit): string {
  const rows = lengths.map(({ length, uncertainty, known }, i) => {
    const places = decimalsFor(uncertainty);
    return [
      i + 1,
      length.toFixed(known ? 3 : places),
      known ? '' : uncertainty.toFixed(places),
      unit,
      known ? 'given' : 'measured'
    ].join(',');
  });
  return ['number,length,standard uncertainty,unit,how', ...rows].join('\r\n') + '\r\n';
}

/**
 * True up without marks: which segments are plumb, which level, and the rotation that follows.
 *
 * The plumb direction g is where most segments agree that n · g = 0 (n, the normal of the plane through a segment and
 * the lens): pairs of segments propose it (as in RANSAC, Fischler & Bolles 1981, over all pairs of the longest), their
 * length votes, and a reweighted least squares refines it. With g known every other segment names a level direction, and
 * the directions that most length agrees on are the fronts of the building. Where the evidence is thin nothing is done,
 * and the reason is said.
 */
import { FULL_FRAME_HALF_DIAGONAL } from '../../optics/focal-length.ts';
import { Matrix, SingularValueDecomposition } from 'ml-matrix';
import type { Point } from '../../math/frame-geometry.ts';
import type { Segment } from './find-segments.ts';
import { type Angles, rotationFromAngles } from '../../math/rotation.ts';
import type { Vector3 } from '../../math/vector3.ts';
import { apply } from '../../math/matrix3.ts';
import { cross, dot } from '../../math/vector3.ts';

/** Level lines of one direction. */
export interface Side {
  lines: Segment[];
  /** Direction in degrees about the plumb line, within ±90: 0 runs across the picture, above it meets to the right. */
  azimuth: number;
}

export interface FoundLines {
  ok: true;
  angles: Angles;
  plumb: Segment[];
  /** Level lines by the direction that they run in: at most two, at right angles. */
  sides: Side[];
  /** What is neither: roof slopes, stairs, foliage, text. */
  other: Segment[];
  /** Of the level lines those of the front that faces the camera most nearly, and the yaw that squares it up. */
  front: { lines: Segment[]; yaw: number } | null;
  /** Focal length in field units that the lines themselves told, where it was not known and they did. */
  solvedFocal: number | null;
  /** Expected error of the plumb direction, in degrees. */
  uncertainty: number;
  /** How sure the result is and why, in words for the user. */
  said: string;
}

export type TrueUpItself =
  | FoundLines
  | {
      ok: false;
      reason: string;
      /** All segments, as none of them is sure. */
      other: Segment[];
    };

const DEGREES = 180 / Math.PI;
/** Turns that photographs of buildings have; steeper ones are left to the photographer. */
const MOST_ROLL = 14;
const MOST_PITCH = 40;
/** Segments that propose directions. */
const PROPOSERS = 90;
/** A segment agrees with a direction within this angle, in degrees, beside what its own shortness leaves open. */
const AGREES = 0.22;
const END_ERROR = 0.25 / 1231;

const FEWEST_PLUMB = 5;
const LEAST_LENGTH = 0.55;
/** Plumb lines have to be spread over this angle of view, in degrees, to set the pitch. */
const LEAST_SPREAD = 7;
/** Of the length of upright segments, this share has to agree. */
const LEAST_SHARE = 0.4;
const MOST_UNCERTAINTY = 0.25;

const unit = (v: Vector3): Vector3 => {
  const l = Math.hypot(...v);
  return [v[0] / l, v[1] / l, v[2] / l];
};

interface Line {
  segment: Segment;
  normal: Vector3;
  /** Angle, in degrees, that a segment of its length leaves open. */
  open: number;
  middle: Vector3;
}

function toLine(segment: Segment, focal: number): Line {
  const ray = ([x, y]: Point): Vector3 => [x / focal, y / focal, 1];
  const [p, q] = [ray(segment.a), ray(segment.b)];
  return {
    segment,
    normal: unit(cross(p, q)),
    open: (Math.SQRT2 * END_ERROR * DEGREES) / segment.length,
    middle: unit([(p[0] + q[0]) / 2, (p[1] + q[1]) / 2, 1])
  };
}

/** Angle, in degrees, by which a line misses a direction. */
const misses = (line: Line, direction: Vector3): number =>
  Math.asin(Math.min(1, Math.abs(dot(line.normal, direction)))) * DEGREES;

function anglesOf(g: Vector3): { roll: number; pitch: number } {
  return {
    roll: Math.atan2(g[0], g[1]) * DEGREES,
    pitch: Math.asin(Math.max(-1, Math.min(1, -g[2]))) * DEGREES
  };
}

/** Length that agrees with a direction, the nearer the more. */
function votes(lines: readonly Line[], g: Vector3): number {
  let sum = 0;
  for (const line of lines) {
    const limit = AGREES + line.open;
    const off = misses(line, g) / limit;
    if (off < 1) sum += line.segment.length * (1 - off * off);
  }
  return sum;
}

/** Least squares of n · g over lines, each weighted by its length and how well it agrees. */
function refine(lines: readonly Line[], start: Vector3): { g: Vector3; used: Line[]; rms: number } {
  let g = start;
  let used: Line[] = [];
  for (let round = 0; round < 8; round++) {
    const sum = Matrix.zeros(3, 3);
    used = [];
    for (const line of lines) {
      const off = misses(line, g) / (2 * (AGREES + line.open));
      if (off >= 1) continue;
      used.push(line);
      const weight = line.segment.length ** 2 * (1 - off * off) ** 2;
      for (let i = 0; i < 3; i++)
        for (let j = 0; j < 3; j++) sum.set(i, j, sum.get(i, j) + weight * line.normal[i] * line.normal[j]);
    }
    if (used.length < 2) break;
    const v = new SingularValueDecomposition(sum).rightSingularVectors;
    const next = unit([v.get(0, 2), v.get(1, 2), v.get(2, 2)]);
    g = next[1] < 0 ? [-next[0], -next[1], -next[2]] : next;
  }
  const agreeing = used.filter((line) => misses(line, g) < AGREES + line.open);
  const length = agreeing.reduce((total, line) => total + line.segment.length, 0);
  const squares = agreeing.reduce((total, line) => total + line.segment.length * misses(line, g) ** 2, 0);
  return { g, used: agreeing, rms: Math.sqrt(squares / Math.max(1e-9, length)) };
}

/** Angle of view, in degrees, that lines span about a direction. */
function spreadOf(lines: readonly Line[], g: Vector3): number {
  const { roll, pitch } = anglesOf(g);
  const r = rotationFromAngles({ roll, pitch, yaw: 0 });
  const azimuths = lines.map((line) => {
    const [x, , z] = apply(r, line.middle);
    return Math.atan2(x, z) * DEGREES;
  });
  return Math.max(...azimuths) - Math.min(...azimuths);
}

/** Level direction that a line names, as an angle about the plumb line in -90…90°, 0 across the picture. */
function azimuthOf(line: Line, r: ReturnType<typeof rotationFromAngles>): number | null {
  const [x, y, z] = apply(r, line.normal);
  // Lines whose plane is itself level run along the horizon and fit every direction.
  if (Math.hypot(x, z) < 0.03 || Math.abs(y) < 0.05) return null;
  return Math.atan(x / z) * DEGREES;
}

const LEVEL_BIN = 0.5;

/** The level directions that most length agrees on: at most two, at right angles within a little. */
function levelDirections(lines: readonly Line[], r: ReturnType<typeof rotationFromAngles>): number[] {
  const bins = new Float64Array(180 / LEVEL_BIN);
  for (const line of lines) {
    const azimuth = azimuthOf(line, r);
    if (azimuth === null) continue;
    const at = (azimuth + 90) / LEVEL_BIN;
    for (let d = -2; d <= 2; d++) {
      const bin = (((Math.floor(at) + d) % bins.length) + bins.length) % bins.length;
      bins[bin] += line.segment.length * (1 - Math.abs(d) / 3);
    }
  }
  const best = bins.indexOf(Math.max(...bins));
  if (!(bins[best] > 0.25)) return [];
  const found = [best * LEVEL_BIN - 90 + LEVEL_BIN / 2];
  const square = Math.round(best + 90 / LEVEL_BIN);
  let other = -1;
  for (let d = -8; d <= 8; d++) {
    const bin = (square + d + bins.length) % bins.length;
    if (other < 0 || bins[bin] > bins[other]) other = bin;
  }
  if (other >= 0 && bins[other] > 0.25) found.push(other * LEVEL_BIN - 90 + LEVEL_BIN / 2);
  return found;
}

/** A front turned further than this, in degrees, is a side. */
const MOST_YAW = 50;
const FEWEST_FRONT = 3;

function frontOf(
  level: readonly Line[],
  directions: readonly number[],
  r: ReturnType<typeof rotationFromAngles>
): FoundLines['front'] {
  const facing = directions
    .filter((azimuth) => Math.abs(azimuth) < MOST_YAW)
    .sort((a, b) => Math.abs(a) - Math.abs(b));
  if (facing.length === 0) return null;
  const own = level.flatMap((line) => {
    const azimuth = azimuthOf(line, r);
    return azimuth !== null && Math.abs(azimuth - facing[0]) < AGREES_LEVEL + LEVEL_BIN
      ? [{ line, azimuth }]
      : [];
  });
  if (own.length < FEWEST_FRONT) return null;
  // The higher above or below the horizon a line runs, the better it tells the direction.
  let [total, sum] = [0, 0];
  for (const { line, azimuth } of own) {
    const [x, , z] = apply(r, line.normal);
    const weight = line.segment.length ** 2 * (x * x + z * z);
    total += weight;
    sum += weight * azimuth;
  }
  const yaw = sum / total;
  return { lines: own.map(({ line }) => line.segment), yaw };
}

/** A segment that stands within this angle of upright may be plumb, however the camera was held. */
const UPRIGHT = 42;
const AGREES_LEVEL = 0.5;

export interface TrueUpItselfOptions {
  /** Focal length in field units. */
  focal: number;
  /** Whether that is known (default true); if not, it is looked for. */
  focalKnown?: boolean;
}

/** Focal lengths looked at when none is known, in field units: 9 to 45 mm on 36 x 24 mm. */
const FOCALS = Array.from({ length: 15 }, (_, i) => 0.42 * 1.12 ** i);
const FINE = Array.from({ length: 13 }, (_, i) => 1.015 ** (i - 6));
/** How much more length than at other focal lengths must agree before the lines are taken to tell it. */
const STANDS_OUT = 1.2;

/** Length of all lines that found a direction: right angles of the building agree at the true focal length only. */
function agreedLength(found: TrueUpItself): number {
  if (!found.ok) return 0;
  const sum = (of: readonly Segment[]): number => of.reduce((total, { length }) => total + length, 0);
  return sum(found.plumb) + found.sides.reduce((total, { lines }) => total + sum(lines), 0);
}

/**
 * Finds the plumb and level lines among segments (lens undone), and roll and pitch from them; where the focal length is not
 * known, the one at which most of them agree on directions at right angles, if one stands out.
 */
export function trueUpItself(
  segments: readonly Segment[],
  { focal, focalKnown = true }: TrueUpItselfOptions
): TrueUpItself {
  if (focalKnown) return trueUpAt(segments, focal);
  const at = (value: number) => {
    const found = trueUpAt(segments, value);
    return { value, found, agreed: agreedLength(found) };
  };
  const better = (a: ReturnType<typeof at>, b: ReturnType<typeof at>) => (b.agreed > a.agreed ? b : a);
  const coarse = FOCALS.map(at);
  const peak = coarse.reduce(better);
  const usual = coarse.map(({ agreed }) => agreed).sort((a, b) => a - b)[coarse.length >> 1];
  const { value, found } = FINE.map((factor) => at(peak.value * factor)).reduce(better, peak);
  if (!found.ok || found.sides.length === 0 || agreedLength(found) < STANDS_OUT * usual)
    return trueUpAt(segments, focal);
  const millimetres = (value * FULL_FRAME_HALF_DIAGONAL).toFixed(0);
  return {
    ...found,
    solvedFocal: value,
    said: `${found.said} Focal length from the lines: about ${millimetres} mm on 36 × 24 mm.`
  };
}

function trueUpAt(segments: readonly Segment[], focal: number): TrueUpItself {
  const lines = segments.map((segment) => toLine(segment, focal));
  const upright = lines.filter(({ segment: { a, b } }) => {
    const lean = Math.abs(Math.atan2(b[0] - a[0], b[1] - a[1])) * DEGREES;
    return Math.min(lean, 180 - lean) < UPRIGHT;
  });
  const refused = (why: string): TrueUpItself => ({
    ok: false,
    reason: `Left as it is: ${why}`,
    other: [...segments]
  });
  if (upright.length < FEWEST_PLUMB)
    return refused('there are too few upright lines in the picture. Mark two plumb edges by hand.');
  const proposers = upright.slice(0, PROPOSERS);
  let best: Vector3 | null = null;
  let most = 0;
  for (let i = 0; i < proposers.length; i++) {
    for (let j = 0; j < i; j++) {
      const product = cross(proposers[i].normal, proposers[j].normal);
      // Two lines in nearly one plane with the lens say nothing of where they meet.
      if (Math.hypot(...product) < 0.02) continue;
      let g = unit(product);
      if (g[1] < 0) g = [-g[0], -g[1], -g[2]];
      const { roll, pitch } = anglesOf(g);
      if (Math.abs(roll) > MOST_ROLL || Math.abs(pitch) > MOST_PITCH) continue;
      // Cameras are held nearly level: of equal votes the smaller roll wins.
      const score = votes(upright, g) * (1 - 0.35 * (roll / MOST_ROLL) ** 2);
      if (score > most) {
        most = score;
        best = g;
      }
    }
  }
  if (!best)
    return refused(
      'its upright lines meet nowhere that a building would have them. Mark two plumb edges by hand.'
    );
  const { g, used, rms } = refine(upright, best);
  const { roll, pitch } = anglesOf(g);
  const length = used.reduce((sum, line) => sum + line.segment.length, 0);
  // Against it speak upright lines that lean away from where plumb ones would stand: rails, trees, roofs.
  const near = upright.filter((line) => misses(line, g) < 12);
  const share = length / near.reduce((sum, line) => sum + line.segment.length, 0);
  const spread = used.length > 1 ? spreadOf(used, g) : 0;
  const uncertainty =
    (Math.max(rms, 0.03) / Math.sqrt(Math.max(1, used.length - 2))) * (30 / Math.max(spread, 1));
  if (used.length < FEWEST_PLUMB || length < LEAST_LENGTH)
    return refused(
      `only ${used.length} short upright lines agree on what is plumb. Mark two plumb edges by hand.`
    );
  if (spread < LEAST_SPREAD)
    return refused(
      'its upright lines stand too close together to set the pitch. Mark one well to the other side.'
    );
  if (share < LEAST_SHARE || uncertainty > MOST_UNCERTAINTY)
    return refused('its upright lines do not agree on what is plumb. Mark two plumb edges by hand.');
  if (Math.abs(roll) > MOST_ROLL || Math.abs(pitch) > MOST_PITCH)
    return refused('it looks tilted on purpose. Mark plumb edges by hand if it is not.');
  const r = rotationFromAngles({ roll, pitch, yaw: 0 });
  const plumb = new Set(used);
  const others = lines.filter((line) => !plumb.has(line));
  const directions = levelDirections(others, r);
  const level: Line[][] = directions.map(() => []);
  const other: Line[] = [];
  for (const line of others) {
    const azimuth = azimuthOf(line, r);
    const apart = (direction: number): number => {
      const between = Math.abs(azimuth! - direction);
      return Math.min(between, 180 - between);
    };
    const side = azimuth === null ? -1 : directions.findIndex((d) => apart(d) < AGREES_LEVEL + LEVEL_BIN);
    (side < 0 ? other : level[side]).push(line);
  }
  const levelCount = level.reduce((sum, of) => sum + of.length, 0);
  return {
    ok: true,
    angles: { roll, pitch, yaw: 0 },
    front: frontOf(level.flat(), directions, r),
    plumb: used.map((line) => line.segment),
    sides: level.map((of, i) => ({ azimuth: directions[i], lines: of.map((line) => line.segment) })),
    other: other.map((line) => line.segment),
    solvedFocal: null,
    uncertainty,
    said: `${used.length} plumb lines agree within ${rms.toFixed(2)}°, over ${spread.toFixed(0)}° of view${
      levelCount > 0 ? `; ${levelCount} level lines found` : ''
    }.`
  };
}

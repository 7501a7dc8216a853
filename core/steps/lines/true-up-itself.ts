/**
 * True up without marks: which segments are plumb, which level, and the rotation that follows.
 *
 * The plumb direction is one estimate from all lines, the horizon and how cameras are held (`plumb/`). With it known every
 * other segment names a level direction, and the directions that most length agrees on are the fronts of the building.
 * Where the evidence is thin nothing is done, and the reason is said.
 */
import { FULL_FRAME_HALF_DIAGONAL } from '../../optics/focal-length.ts';
import type { Point } from '../../math/frame-geometry.ts';
import type { Segment } from './find-segments.ts';
import {
  type PlumbDirection,
  type PlumbOptions,
  TEMPER,
  type Turn,
  bestScore,
  plumbDirection
} from './plumb/plumb-direction.ts';
import { type Angles, rotationFromAngles } from '../../math/rotation.ts';
import type { Vector3 } from '../../math/vector3.ts';
import { apply } from '../../math/matrix3.ts';
import { cross } from '../../math/vector3.ts';

/** Level lines of one direction. */
export interface Side {
  lines: Segment[];
  /** Direction in degrees about the plumb line, within ±90: 0 runs across the picture, above it meets to the right. */
  azimuth: number;
}

/** How sure a result is: to be taken as it is, good as a rule, or to be looked at. */
export type Confidence = 'sure' | 'fair' | 'look';

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
  /** Standard errors of the plumb direction, in degrees. */
  rollError: number;
  pitchError: number;
  confidence: Confidence;
  /** Directions that were held against each other. */
  modes: Turn[];
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
const MOST_PITCH = 45;

const FEWEST_PLUMB = 5;
const LEAST_LENGTH = 0.55;

const unit = (v: Vector3): Vector3 => {
  const l = Math.hypot(...v);
  return [v[0] / l, v[1] / l, v[2] / l];
};

interface Line {
  segment: Segment;
  normal: Vector3;
}

function toLine(segment: Segment, focal: number): Line {
  const ray = ([x, y]: Point): Vector3 => [x / focal, y / focal, 1];
  const [p, q] = [ray(segment.a), ray(segment.b)];
  return {
    segment,
    normal: unit(cross(p, q))
  };
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

const AGREES_LEVEL = 0.5;

export interface TrueUpItselfOptions {
  /** Focal length in field units. */
  focal: number;
  /** Whether that is known (default true); if not, it is looked for. */
  focalKnown?: boolean;
  /** Whether the lens is known and undone (default true). */
  lensKnown?: boolean;
}

/** Focal lengths looked at when none is known, in field units: 14 to 90 mm on 36 x 24 mm. */
const FOCALS = Array.from({ length: 9 }, (_, i) => 0.65 * 1.26 ** i);
const FINE = Array.from({ length: 9 }, (_, i) => 1.06 ** (i - 4));
/** What lenses are used: about 28 mm, by half as a rule. */
const USUAL_FOCAL = { value: 1.29, spread: 0.5 };
/** A focal length is told when its relative standard error is at most this, and others explain so much less, in nats. */
const TOLD = 0.12;
const FOCAL_EVIDENCE = 6;

/**
 * Finds the plumb and level lines among segments (lens undone), and roll and pitch from them; where the focal length is not
 * known, also the one that right angles of the building ask for, if they tell it.
 */
export function trueUpItself(
  segments: readonly Segment[],
  { focal, focalKnown = true, lensKnown = true }: TrueUpItselfOptions
): TrueUpItself {
  const assumed = trueUpAt(segments, { focal, focalKnown, lensKnown });
  if (focalKnown || !assumed.ok || assumed.sides.length === 0) return assumed;
  // A vanishing point stays where it is when the focal length changes: tan pitch goes with it.
  const startsAt = (value: number): Turn[] =>
    assumed.modes.map(({ roll, pitch }) => ({
      roll,
      pitch: Math.atan((Math.tan(pitch / DEGREES) * value) / focal) * DEGREES
    }));
  const scoreOf = (value: number): number =>
    bestScore(segments, { focal: value, lensKnown, starts: startsAt(value) }) -
    (Math.log(value / USUAL_FOCAL.value) / USUAL_FOCAL.spread) ** 2 / 2;
  const scores = FOCALS.map(scoreOf);
  const best = scores.indexOf(Math.max(...scores));
  // A best value at the end of the range is none.
  if (best === 0 || best === FOCALS.length - 1) return assumed;
  const usual = [...scores].sort((p, q) => p - q)[scores.length >> 1];
  const near = FINE.map((factor) => FOCALS[best] * factor);
  const nearScores = near.map(scoreOf);
  const top = Math.max(...nearScores);
  const chances = nearScores.map((score) => Math.exp(TEMPER * (score - top)));
  const total = chances.reduce((sum, chance) => sum + chance, 0);
  const mean = chances.reduce((sum, chance, i) => sum + chance * Math.log(near[i]), 0) / total;
  const spread = Math.sqrt(
    chances.reduce((sum, chance, i) => sum + chance * (Math.log(near[i]) - mean) ** 2, 0) / total
  );
  if (spread > TOLD || top - usual < FOCAL_EVIDENCE) return assumed;
  const value = Math.exp(mean);
  const found = trueUpAt(segments, { focal: value, lensKnown, starts: startsAt(value) });
  if (!found.ok) return assumed;
  const millimetres = (value * FULL_FRAME_HALF_DIAGONAL).toFixed(0);
  return {
    ...found,
    solvedFocal: value,
    said: `${found.said} Focal length from the lines: about ${millimetres} mm on 36 × 24 mm.`
  };
}

/** Of this standard error, in degrees, at most: a result is sure, or fair; and beyond the last, none. */
const SURE = { roll: 0.4, pitch: 0.8, behind: 10 };
const FAIR = { roll: 0.9, pitch: 1.5, behind: 4 };
const LOOSEST = { roll: 1.5, pitch: 3 };
/** Nats by which a plumb direction has to explain the lines better than none: one that is sure of itself, by any. */
const LEAST_EVIDENCE = { sure: 0, unsure: 14 };

const confidenceOf = ({ rollError, pitchError, competing }: PlumbDirection): Confidence => {
  const within = (limit: typeof SURE): boolean =>
    rollError < limit.roll && pitchError < limit.pitch && (competing?.behind ?? Infinity) > limit.behind;
  return within(SURE) ? 'sure' : within(FAIR) ? 'fair' : 'look';
};

const CONFIDENCE_SAID: Record<Confidence, string> = { sure: 'Sure', fair: 'Fair', look: 'Have a look' };

/** Which evidence decided, and how sure that is, in words. */
function sayHow(found: PlumbDirection, plumb: number, level: number): string {
  const { rollFrom, rollError, pitchError } = found;
  const lines = `${plumb} plumb lines`;
  const by = [
    ...(rollFrom.plumb > 0.15 ? [lines] : []),
    ...(rollFrom.level > 0.15 ? [`${level} level lines`] : []),
    ...(rollFrom.horizon > 0.15 ? ['the horizon'] : [])
  ];
  const held = rollFrom.held > 0.35 ? ', held near level as these tell little of it' : '';
  const roll = `roll from ${by.join(' and ') || lines} (±${rollError.toFixed(1)}°${held})`;
  return `${CONFIDENCE_SAID[confidenceOf(found)]}: ${roll}, pitch from ${lines} (±${pitchError.toFixed(1)}°).`;
}

function trueUpAt(segments: readonly Segment[], options: PlumbOptions): TrueUpItself {
  const { focal } = options;
  const refused = (why: string): TrueUpItself => ({
    ok: false,
    reason: `Left as it is: ${why}`,
    other: [...segments]
  });
  const found = plumbDirection(segments, options);
  if (!found) return refused('there are too few upright lines in the picture. Mark two plumb edges by hand.');
  const { roll, pitch, rollError, pitchError, plumb: shares, competing, evidence } = found;
  const plumb = segments.filter((_, i) => shares[i] > 0.5);
  const length = plumb.reduce((sum, segment) => sum + segment.length, 0);
  if (plumb.length < FEWEST_PLUMB || length < LEAST_LENGTH)
    return refused(
      `only ${plumb.length} short upright lines agree on what is plumb. Mark two plumb edges by hand.`
    );
  const torn = competing !== null && competing.behind < FAIR.behind;
  const loose = rollError > LOOSEST.roll || pitchError > LOOSEST.pitch;
  const least = confidenceOf(found) === 'sure' ? LEAST_EVIDENCE.sure : LEAST_EVIDENCE.unsure;
  if (evidence < least || (torn && loose))
    return refused('its upright lines do not agree on what is plumb. Mark two plumb edges by hand.');
  if (loose)
    return refused(
      'its upright lines stand too close together to set the pitch. Mark one well to the other side.'
    );
  if (Math.abs(roll) > MOST_ROLL || Math.abs(pitch) > MOST_PITCH)
    return refused('it looks tilted on purpose. Mark plumb edges by hand if it is not.');
  const lines = segments.map((segment) => toLine(segment, focal));
  const r = rotationFromAngles({ roll, pitch, yaw: 0 });
  const others = lines.filter((_, i) => shares[i] <= 0.5);
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
    plumb,
    sides: level.map((of, i) => ({ azimuth: directions[i], lines: of.map((line) => line.segment) })),
    other: other.map((line) => line.segment),
    solvedFocal: null,
    rollError,
    pitchError,
    confidence: confidenceOf(found),
    modes: found.modes,
    said: sayHow(found, plumb.length, levelCount)
  };
}

/**
 * The plumb direction of a photograph as one estimate from everything that tells it: lines that may be plumb, lines that
 * may be level, the horizon, and how cameras are held.
 *
 * Each segment is plumb, nearly upright by chance (a tree, a figure, a roof) or anything: a mixture, as in Coughlan &
 * Yuille (1999); level lines run in a few directions of their own (Schindler & Dellaert 2004). Misfit is the angle in the
 * picture between a segment and the line from its middle to the vanishing point, so that no focal length makes it small.
 * The modes over roll and pitch are refined by reweighted least squares; the best is held against the second.
 */
import { Matrix, inverse } from 'ml-matrix';
import { jackknife } from '../../../math/jackknife.ts';
import type { Matrix3 } from '../../../math/matrix3.ts';
import { rotationFromAngles } from '../../../math/rotation.ts';
import type { Segment } from '../find-segments.ts';
import { PITCHES, priorAt, rollInformation } from './held-camera.ts';
import { horizonLines, horizonSlope } from './horizon-evidence.ts';
import { LEAST_LEVEL, levelDirections, levelVariance, offLevel } from './level-evidence.ts';
import { type Lines, RADIANS, offFrom, toLines, unbent } from './picture-lines.ts';
import { BATTER, LEANING, batterOf, plumbScore, plumbShares } from './plumb-evidence.ts';

export interface PlumbOptions {
  /** Focal length in field units. */
  focal: number;
  /** Whether the focal length is known (default true): level lines tell little of plumb ones without it. */
  focalKnown?: boolean;
  /** Whether the lens is known and undone (default true): if not, its bow is solved as well, from what bends lines alike. */
  lensKnown?: boolean;
  /** Directions to start from, in degrees, instead of a search over all. */
  starts?: readonly Turn[];
}

type Source = 'plumb' | 'level' | 'horizon' | 'held';

export interface Turn {
  roll: number;
  pitch: number;
}

export interface PlumbDirection {
  /** Degrees. */
  roll: number;
  pitch: number;
  /** Standard errors in degrees, with what batter, a bow and a competing direction may add. */
  rollError: number;
  pitchError: number;
  /** Probability, 0…1, that each segment is plumb. */
  plumb: Float64Array;
  /** How much better the lines are explained with a plumb direction than without any, in nats. */
  evidence: number;
  /** The second best direction, and how much less it explains, in nats; null when there is none. */
  competing: { roll: number; pitch: number; behind: number } | null;
  /** What decided the roll, as shares of all that tells it: plumb lines, level ones, the horizon, and how cameras are held. */
  rollFrom: Record<Source, number>;
  /** All directions that were held against each other, the best first. */
  modes: Turn[];
}

/** Turns that photographs of buildings have. */
const MOST_ROLL = 14;
const MOST_PITCH = 46;
const ROLL_STEP = 1;
const PITCH_STEP = 1.5;
/** Variance that a coarse step leaves open, in radians squared. */
const COARSE = (0.5 * RADIANS) ** 2;
/** Modes that are refined. */
const MODES = 10;
/** Of these so many are looked at with level lines and the horizon, if they are not this far behind already, in nats. */
const MODES_WHOLE = 4;
const OUT_OF_REACH = 40;
/** Modes nearer than this to each other, in degrees, are one. */
const APART = 1.6;

/** Level lines count less than plumb ones: roofs and stairs make directions, too. */
const LEVEL_WORTH = 0.5;
/** At a focal length that is only assumed they contradict the plumb ones. */
const LEVEL_WORTH_LOOSE = 0.1;

/** Bows of lenses that nobody knows, as a share of the radius at the corner; and what a known one leaves. */
const BOWS = { unknown: 0.02, known: 0.0005 };

/** Scores count what lines say several times over. */
export const TEMPER = 0.35;

/** Lines are found several times over (both edges of a frame): so many count as one. */
const ALIKE = 2;

interface Place {
  roll: number;
  pitch: number;
  bow: number;
}

/** What all directions are judged by. */
interface Evidence {
  lines: Lines;
  focal: number;
  /** Spread of bows that may be left, and how much level lines count. */
  bows: number;
  levelWorth: number;
  /** Variance of plumb edges about the plumb direction, in radians squared. */
  batter: number;
}

interface Mode extends Place {
  score: number;
  evidence: number;
}

interface Normal {
  information: Matrix;
  /** Information on the roll by what gives it. */
  ofRoll: Record<Source, number>;
  gradient: Matrix;
  /** Of each plumb line: what it says of roll, pitch and bow, and its weight; and the like of each level direction's lines. */
  rows: Row[];
  levelRows: Row[][];
}

interface Row {
  i: number;
  jacobian: readonly number[];
  weight: number;
}

/**
 * The normal equations of roll, pitch (degrees) and bow about a place; level azimuths are eliminated
 * direction by direction. `whole`: with level lines and the horizon, which take longer.
 */
function normalAt(
  { lines: asSeen, focal, bows, levelWorth, batter }: Evidence,
  place: Place,
  whole: boolean
): Normal {
  const { roll, pitch, bow } = place;
  const lines = unbent(asSeen, bow);
  const r = rotationFromAngles({ roll, pitch, yaw: 0 });
  const step = 0.02;
  const bowStep = 1e-3;
  const rolled = rotationFromAngles({ roll: roll + step, pitch, yaw: 0 });
  const pitched = rotationFromAngles({ roll, pitch: pitch + step, yaw: 0 });
  const bent = unbent(asSeen, bow + bowStep);
  /** What a measure of lines does when roll, pitch and bow change. */
  const slopes = (measure: (of: Lines, at: Matrix3) => number, here: number): [number, number, number] => [
    (measure(lines, rolled) - here) / step,
    (measure(lines, pitched) - here) / step,
    (measure(bent, r) - here) / bowStep
  ];
  const information = Matrix.zeros(3, 3);
  const gradient = Matrix.zeros(3, 1);
  const rows: Row[] = [];
  const levelRows: Row[][] = [];
  const ofRoll: Record<Source, number> = { plumb: 0, level: 0, horizon: 0, held: 0 };
  const add = (source: Source, j: readonly number[], off: number, weight: number): void => {
    ofRoll[source] += weight * j[0] * j[0];
    for (let p = 0; p < 3; p++) {
      gradient.set(p, 0, gradient.get(p, 0) + weight * j[p] * off);
      for (let q = 0; q < 3; q++) information.set(p, q, information.get(p, q) + weight * j[p] * j[q]);
    }
  };
  const shares = plumbShares(lines, r, focal, batter);
  for (const i of lines.upright) {
    if (shares[i] < 0.01) continue;
    const off = offFrom(lines, i, r[3], r[4], r[5], focal);
    const jacobian = slopes((of, at) => offFrom(of, i, at[3], at[4], at[5], focal), off);
    const weight = (shares[i] * lines.weight[i]) / (lines.variance[i] + batter) / ALIKE;
    rows.push({ i, jacobian, weight });
    add('plumb', jacobian, off, weight);
  }
  for (const { azimuth, members } of whole ? levelDirections(lines, r, shares, focal) : []) {
    // The direction's own azimuth is free: what it explains tells nothing of roll and pitch.
    const of = members.map((i) => {
      const off = offLevel(lines, i, r, azimuth, focal);
      const j = slopes((seen, at) => offLevel(seen, i, at, azimuth, focal), off);
      return {
        off,
        j,
        own: (offLevel(lines, i, r, azimuth + step * RADIANS, focal) - off) / step,
        weight: (levelWorth * lines.weight[i]) / levelVariance(lines, i, r, azimuth, focal) / ALIKE
      };
    });
    const total = of.reduce((sum, { own, weight }) => sum + weight * own * own, 0);
    if (!(total > 0)) continue;
    const share = [0, 1, 2].map(
      (p) => of.reduce((sum, { own, weight, j }) => sum + weight * own * j[p], 0) / total
    );
    const mean = of.reduce((sum, { own, weight, off }) => sum + weight * own * off, 0) / total;
    levelRows.push(
      of.map(({ off, j, own, weight }, k) => {
        const jacobian = j.map((value, p) => value - own * share[p]);
        add('level', jacobian, off - own * mean, weight);
        return { i: members[k], jacobian, weight };
      })
    );
  }
  for (const { slope, error, i, share } of whole ? horizonLines(lines, r, focal) : []) {
    add(
      'horizon',
      slopes((of, at) => horizonSlope(of, i, at, focal), slope),
      slope,
      share / error ** 2
    );
  }
  // The priors: a narrow one of roll where the roll is small, of pitch and of bow.
  add('held', [1, 0, 0], roll, rollInformation(roll));
  add('held', [0, 1, 0], pitch, 1 / PITCHES ** 2);
  add('held', [0, 0, 1], bow, 1 / bows ** 2);
  return { information, ofRoll, gradient, rows, levelRows };
}

function scoreAt(
  { lines: asSeen, focal, bows, levelWorth, batter }: Evidence,
  place: Place,
  whole: boolean
): Mode {
  const { roll, pitch, bow } = place;
  const lines = unbent(asSeen, bow);
  const r = rotationFromAngles({ roll, pitch, yaw: 0 });
  const evidence = plumbScore(lines, roll, pitch, focal, batter);
  const prior = priorAt(roll, pitch) - (bow / bows) ** 2 / 2;
  if (!whole) return { ...place, evidence, score: evidence + prior };
  const level = levelDirections(lines, r, plumbShares(lines, r, focal, batter), focal);
  const levelGain = level.reduce((sum, { gain }) => sum + gain - LEAST_LEVEL, 0);
  const horizon = horizonLines(lines, r, focal).reduce((sum, { gain }) => sum + gain, 0);
  return { ...place, evidence, score: evidence + levelWorth * levelGain + horizon + prior };
}

/** A refinement that gains less than this, in nats, has arrived. */
const STILL = 0.002;

function refined(evidence: Evidence, start: Mode, whole: boolean): Mode {
  let best = scoreAt(evidence, start, whole);
  for (let round = 0; round < 12; round++) {
    const { information, gradient } = normalAt(evidence, best, whole);
    const move = inverse(information).mmul(gradient).to1DArray();
    // Shares of the mixture hold only near by.
    let factor = Math.min(1, 2 / Math.max(Math.hypot(move[0], move[1]), 1e-9));
    let better: Mode | null = null;
    for (let attempt = 0; attempt < 4 && !better; attempt++, factor /= 2) {
      const next = {
        roll: best.roll - factor * move[0],
        pitch: best.pitch - factor * move[1],
        bow: best.bow - factor * move[2]
      };
      const tried = scoreAt(evidence, next, whole);
      if (tried.score > best.score) better = tried;
    }
    if (!better) break;
    const gained = better.score - best.score;
    best = better;
    if (gained < STILL) break;
  }
  return best;
}

/** The best directions over roll and pitch, far enough from each other, best first. */
function modes(evidence: Evidence, given?: readonly Turn[]): Mode[] {
  if (given)
    return given
      .map(({ roll, pitch }) => refined(evidence, { roll, pitch, bow: 0, evidence: 0, score: 0 }, true))
      .sort((a, b) => b.score - a.score);
  const grid: Mode[] = [];
  for (let pitch = -MOST_PITCH; pitch <= MOST_PITCH; pitch += PITCH_STEP)
    for (let roll = -MOST_ROLL; roll <= MOST_ROLL; roll += ROLL_STEP) {
      const explained = plumbScore(evidence.lines, roll, pitch, evidence.focal, evidence.batter + COARSE);
      const score = explained + priorAt(roll, pitch);
      grid.push({ roll, pitch, bow: 0, evidence: explained, score });
    }
  grid.sort((a, b) => b.score - a.score);
  const starts: Mode[] = [];
  for (const mode of grid) {
    if (starts.length === MODES) break;
    if (starts.every((other) => Math.hypot(other.roll - mode.roll, other.pitch - mode.pitch) > 2.1))
      starts.push(mode);
  }
  const rough = apart(starts.map((start) => refined(evidence, start, false)));
  return rough
    .filter(({ score }) => score > rough[0].score - OUT_OF_REACH)
    .slice(0, MODES_WHOLE)
    .map((mode) => refined(evidence, mode, true))
    .sort((a, b) => b.score - a.score);
}

/** Best first, and of those that came to the same place the best. */
function apart(found: Mode[]): Mode[] {
  const kept: Mode[] = [];
  for (const mode of found.sort((a, b) => b.score - a.score))
    if (kept.every((other) => Math.hypot(other.roll - mode.roll, other.pitch - mode.pitch) > APART / 2))
      kept.push(mode);
  return kept;
}

/** Errors that all lines share, in degrees: a building that leans to one side; towers that taper, and neighbours that lean apart. */
const LEAN_OF_ALL = 0.13;
const TAPER_OF_ALL = 0.3;
/** No building and no lens is known better than this, in degrees. */
const LEAST_ERROR = { roll: 0.05, pitch: 0.08 };
/** How much wider errors are where as much length leans as is plumb. */
const UNSETTLED = 3;
/** Narrowest thing that tapers, in field units. */
const LEAST_WIDTH = 0.01;

/** Level lines come and go on the way, and hold a refinement up: it starts from around as well. Degrees of roll and pitch. */
const NEAR_BY = [
  [0, 0],
  [0.1, 0.6],
  [-0.1, -0.6],
  [0.3, 0],
  [-0.3, 0]
];

function evidenceOf(
  segments: readonly Segment[],
  { focal, focalKnown = true, lensKnown = true }: PlumbOptions
): Evidence {
  return {
    lines: toLines(segments),
    focal,
    bows: lensKnown ? BOWS.known : BOWS.unknown,
    levelWorth: focalKnown ? LEVEL_WORTH : LEVEL_WORTH_LOOSE,
    batter: (BATTER.usual * RADIANS) ** 2
  };
}

/** Log of the posterior of the best of some directions, for comparing focal lengths: without its exact place and errors. */
export function bestScore(
  segments: readonly Segment[],
  options: PlumbOptions & { starts: readonly Turn[] }
): number {
  return modes(evidenceOf(segments, options), options.starts)[0].score;
}

/** Parts of the picture, side by side, that are left out in turn. */
const PARTS = 5;
/** Parts that disagree make a result one to be looked at; they do not forbid it by themselves. Degrees. */
const MOST_BY_PARTS = { roll: 1.4, pitch: 2.8 };
/** Another direction so far behind, in nats, may come first without a part. */
const WITHIN_REACH = 25;

/**
 * Standard errors of roll and pitch, in degrees, by what they are without each part of the picture: lines of one thing are
 * wrong together, however many they are.
 */
function errorsByParts(
  evidence: Evidence,
  best: Mode,
  others: readonly Mode[],
  plumb: Float64Array
): { roll: number; pitch: number } {
  const { lines } = evidence;
  const across = lines.upright.filter((i) => plumb[i] > 0.3).sort((i, j) => lines.mx[i] - lines.mx[j]);
  if (across.length < 2 * PARTS) return { roll: 0, pitch: 0 };
  const total = across.reduce((sum, i) => sum + lines.weight[i], 0);
  const ends: number[] = [];
  let sum = 0;
  for (const i of across) {
    sum += lines.weight[i];
    if (ends.length < PARTS - 1 && sum >= ((ends.length + 1) * total) / PARTS) ends.push(lines.mx[i]);
  }
  const partOf = (i: number): number => ends.filter((end) => lines.mx[i] > end).length;
  const without = Array.from({ length: PARTS }, (_, part): Mode => {
    const kept = lines.upright.filter((i) => partOf(i) !== part);
    const weight = lines.weight.slice();
    for (let i = 0; i < lines.count; i++) if (partOf(i) === part) weight[i] = 0;
    const rest = { ...evidence, lines: { ...lines, upright: kept, weight } };
    return others
      .filter(({ score }) => score > best.score - WITHIN_REACH)
      .map((mode) => refined(rest, mode, true))
      .reduce((a, b) => (b.score > a.score ? b : a), refined(rest, best, true));
  });
  return {
    roll: Math.min(MOST_BY_PARTS.roll, jackknife(without.map(({ roll }) => roll)).error),
    pitch: Math.min(MOST_BY_PARTS.pitch, jackknife(without.map(({ pitch }) => pitch)).error)
  };
}

/** Finds the plumb direction among segments (lens undone); null when there is nothing upright at all. */
export function plumbDirection(segments: readonly Segment[], options: PlumbOptions): PlumbDirection | null {
  const { focal, starts } = options;
  const evidence = evidenceOf(segments, options);
  const { lines: asSeen } = evidence;
  if (asSeen.upright.length < 3) return null;
  const found = modes(evidence, starts);
  // With the spread that this building's own lines have, for what is built well is told more exactly.
  const turned = rotationFromAngles({ roll: found[0].roll, pitch: found[0].pitch, yaw: 0 });
  const batter = batterOf(unbent(asSeen, found[0].bow), turned, focal, evidence.batter);
  const exact = { ...evidence, batter };
  const best = NEAR_BY.map(([roll, pitch]) =>
    refined(exact, { ...found[0], roll: found[0].roll + roll, pitch: found[0].pitch + pitch }, true)
  ).reduce((a, b) => (b.score > a.score ? b : a));
  const second = found.find((mode) => Math.hypot(mode.roll - best.roll, mode.pitch - best.pitch) > APART);
  const r = rotationFromAngles({ roll: best.roll, pitch: best.pitch, yaw: 0 });
  const lines = unbent(asSeen, best.bow);
  const plumb = plumbShares(lines, r, focal, batter);
  const { information, ofRoll, rows, levelRows } = normalAt(exact, best, true);
  const byNoise = inverse(information);
  const covariance = byNoise.clone();
  // Lines that stand together tell a mixture of roll and pitch: what is left of the roll when the pitch is free.
  const told = 1 / covariance.get(0, 0);
  const held = Math.min(1, ofRoll.held / told);
  const others = ofRoll.plumb + ofRoll.level + ofRoll.horizon || 1;
  const shareOf = (source: Source): number => ((1 - held) * ofRoll[source]) / others;
  // What lines are off together does not grow less with their number: all alike, and to either side of their middle.
  const shared = (of: readonly Row[], along: Float64Array): void => {
    const weight = of.reduce((sum, row) => sum + row.weight, 0) || 1;
    const middle = of.reduce((sum, row) => sum + row.weight * along[row.i], 0) / weight;
    const squares = of.reduce((sum, row) => sum + row.weight * (along[row.i] - middle) ** 2, 0);
    const width = Math.max(LEAST_WIDTH, Math.sqrt(squares / weight));
    for (const offOf of [
      () => LEAN_OF_ALL,
      (i: number) => TAPER_OF_ALL * Math.tanh((along[i] - middle) / width)
    ]) {
      const pull = Matrix.zeros(3, 1);
      for (const { i, jacobian, weight } of of)
        for (let p = 0; p < 3; p++)
          pull.set(p, 0, pull.get(p, 0) + weight * jacobian[p] * offOf(i) * RADIANS);
      const moved = byNoise.mmul(pull);
      covariance.add(moved.mmul(moved.transpose()));
    }
  };
  shared(rows, lines.mx);
  for (const of of levelRows) shared(of, lines.my);
  // Where many lines stand nearly upright and are not plumb, those that agree may have been chosen by chance.
  let [agree, lean] = [0, 0];
  for (const i of lines.upright) {
    if (plumb[i] > 0.5) agree += segments[i].length;
    else if (Math.abs(offFrom(lines, i, r[3], r[4], r[5], focal)) < LEANING * RADIANS)
      lean += segments[i].length;
  }
  covariance.mul((1 + UNSETTLED * Math.min(2, lean / Math.max(agree, 1e-9))) ** 2);
  const behind = second ? found[0].score - second.score : Infinity;
  if (second) {
    const chance = 1 / (1 + Math.exp(TEMPER * behind));
    covariance.set(0, 0, covariance.get(0, 0) + chance * (second.roll - best.roll) ** 2);
    covariance.set(1, 1, covariance.get(1, 1) + chance * (second.pitch - best.pitch) ** 2);
  }
  const byParts = errorsByParts(exact, best, found.slice(1), plumb);
  return {
    roll: best.roll,
    pitch: best.pitch,
    rollError: Math.hypot(LEAST_ERROR.roll, Math.sqrt(covariance.get(0, 0)), byParts.roll),
    pitchError: Math.hypot(LEAST_ERROR.pitch, Math.sqrt(covariance.get(1, 1)), byParts.pitch),
    plumb,
    evidence: best.evidence,
    competing: second ? { roll: second.roll, pitch: second.pitch, behind } : null,
    rollFrom: {
      plumb: shareOf('plumb'),
      level: shareOf('level'),
      horizon: shareOf('horizon'),
      held
    },
    modes: found.map(({ roll, pitch }) => ({ roll, pitch }))
  };
}

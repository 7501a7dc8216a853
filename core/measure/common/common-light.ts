/**
 * How much more light of each colour one picture has than another of the same room: of places that look alike, most pairs agree
 * on it where they are the same (mean shift: Comaniciu & Meer 2002), and those that are not are spread widely.
 */
import type { Vector3 } from '../../math/vector3.ts';
import { NUMBERS, type Places, SPOTS } from './places.ts';

export interface CommonLight {
  /** Stops of red, green and blue, as developed, that the second has over the first. */
  stops: Vector3;
  /** Spots that agree on it. */
  agree: number;
}

/** How much nearer the best has to be than the next. */
const CLEARLY = 0.92;
/** Deviations, in stops, within which pairs count as agreeing: to find the place where most do, then to settle it. */
const ROUGH = 0.25;
const FINE = 0.1;
/** Spots that have to agree, and what share of all of them. */
const LEAST = 16;
const LEAST_SHARE = 0.06;

/** Pairs of places, each of which is the other's best by far. */
function pairsOf(one: Places, other: Places): [number, number][] {
  const likeness = (i: number, j: number): number => {
    let sum = 0;
    const [a, b] = [i * NUMBERS, j * NUMBERS];
    for (let k = 0; k < NUMBERS; k++) sum += one.descriptions[a + k] * other.descriptions[b + k];
    return sum;
  };
  const back = Array.from({ length: other.count }, () => ({ at: -1, likeness: -1 }));
  const forth = Array.from({ length: one.count }, (_, i) => {
    let [at, best, next] = [-1, -1, -1];
    for (let j = 0; j < other.count; j++) {
      const found = likeness(i, j);
      if (found > best) [at, next, best] = [j, best, found];
      else if (found > next) next = found;
      if (found > back[j].likeness) back[j] = { at: i, likeness: found };
    }
    const far = (value: number): number => Math.sqrt(Math.max(0, 2 - 2 * value));
    return far(best) < CLEARLY * far(next) ? at : -1;
  });
  return forth.flatMap((j, i): [number, number][] => (j >= 0 && back[j].at === i ? [[i, j]] : []));
}

/** Where differences lie closest, from one of them on. */
function shifted(all: readonly Vector3[], from: Vector3, deviation: number): { at: Vector3; weight: number } {
  let at = from;
  let weight = 0;
  for (let round = 0; round < 20; round++) {
    const sum = [0, 0, 0];
    weight = 0;
    for (const each of all) {
      const d2 = (each[0] - at[0]) ** 2 + (each[1] - at[1]) ** 2 + (each[2] - at[2]) ** 2;
      const own = Math.exp(-d2 / (2 * deviation * deviation));
      weight += own;
      for (let c = 0; c < 3; c++) sum[c] += own * each[c];
    }
    at = sum.map((value) => value / weight) as Vector3;
  }
  return { at, weight };
}

/** Null where too little of one is seen in the other. */
export function commonLight(one: Places, other: Places): CommonLight | null {
  const differences = pairsOf(one, other).flatMap(([i, j]) =>
    Array.from({ length: SPOTS }, (_, spot): Vector3 => {
      const [a, b] = [3 * (i * SPOTS + spot), 3 * (j * SPOTS + spot)];
      return [0, 1, 2].map((c) => other.stops[b + c] - one.stops[a + c]) as Vector3;
    }).filter((each) => each.every(Number.isFinite))
  );
  if (differences.length < LEAST) return null;
  // From some of them: the closest place is reached from each that lies about it.
  const step = Math.ceil(differences.length / 60);
  const rough = differences
    .filter((_, i) => i % step === 0)
    .map((from) => shifted(differences, from, ROUGH))
    .reduce((best, found) => (found.weight > best.weight ? found : best));
  const { at } = shifted(differences, rough.at, FINE);
  const agree = differences.filter(
    (each) => Math.hypot(each[0] - at[0], each[1] - at[1], each[2] - at[2]) < 2 * FINE
  ).length;
  return agree < LEAST || agree < LEAST_SHARE * differences.length ? null : { stops: at, agree };
}

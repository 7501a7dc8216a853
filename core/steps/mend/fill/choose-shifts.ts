/** A few shifts that together explain what lies about a place. */
import { tellingShares } from './telling.ts';
import { type Shift, UNLIKE, type Window, laidAt, rimOf, unlike } from './window.ts';

/** How far they reach, in the place's own lengths. */
export const REACH = 2;
/** Pixels of the rim that are compared, across it. */
const RIM = 4;
/** Pixels of the rim that are compared for each shift, and when they are made finer. */
const MOST_COMPARED = 240;
const MOST_FINER = 800;
/** So many shifts within the picture are laid side by side, and so many along surfaces. */
const WITHIN = 20;
const ALONG = 12;
/** So many more for what lies far in; what a choice leaves worth of a further one, and how much of that one has to bring. */
const INSIDE = 12;
const CHOICE = 0.5;
const LEAST_WORTH = 0.2;
/** Share of the rim that each along a surface has to explain beyond what those before it do. */
const EXPLAINS = 0.004;
/** Shifts along one surface, or within the picture, that the choice is made from. */
const BEST = 1000;
/** Every so many pixels of the rim tell which these are. */
const SCREENED = 4;
/** What a shift costs for each of the place's lengths that it goes. */
const AWAY = 0.04;
/** Another try takes from places that are so far from those before, in the place's lengths. */
const OTHERWISE = 0.35;

interface Explained extends Shift {
  costs: Float32Array;
  away: number;
}

/** Pixels of the hole, and how much each pixel of the rim tells of each. */
interface Inside {
  inside: readonly number[];
  telling: readonly Float32Array[];
}

const laid = new Float64Array(3);

/** Shifts that together explain the rim best: each is chosen for what those before it leave. */
export function chooseShifts(window: Window, length: number, avoided: readonly Shift[]): Shift[] {
  const whole = rimOf(window, RIM);
  const rim = whole.filter((_, i) => i % Math.ceil(whole.length / MOST_COMPARED) === 0);
  const holes = Array.from({ length: window.hole.length }, (_, at) => at).filter((at) => window.hole[at]);
  const inside = holes.filter((_, i) => i % Math.ceil(holes.length / (MOST_COMPARED / 2)) === 0);
  const telling = inside.map((at) =>
    tellingShares(
      [at % window.width, Math.floor(at / window.width)],
      rim,
      window.width,
      RIM,
      new Float32Array(rim.length)
    )
  );
  const left = new Float32Array(rim.length + inside.length).fill(UNLIKE);
  const found = (surface: number): Explained[] =>
    shiftsAlong(window, surface, rim, { inside, telling }, length, avoided);
  const pieces = found(0);
  const within = chooseFrom(pieces, left, WITHIN, 0);
  // What lies along a surface is taken for what a picture's own pieces leave.
  const surfaces = window.surfaces.flatMap((_, n) => found(n + 1));
  const along = chooseFrom(surfaces, left, ALONG, EXPLAINS * UNLIKE * left.length);
  const all = [...pieces, ...(along.length > 0 ? surfaces : [])];
  return [...within, ...along, ...forFarIn(all, [...within, ...along], rim.length)];
}

const isOf = (one: Shift, other: Shift): boolean =>
  one.surface === other.surface && one.dx === other.dx && one.dy === other.dy;

/** Far in, few of the chosen have anything to lay: some more of all, for places that have less of a choice than others. */
function forFarIn(all: readonly Explained[], chosen: readonly Shift[], rim: number): Shift[] {
  // How much it is worth to have a further one there: the less, the more there are.
  const worth = new Float32Array(all[0]?.costs.length ?? 0).fill(1);
  const take = (each: Explained): void => {
    for (let i = rim; i < worth.length; i++) if (each.costs[i] < 0.999 * UNLIKE) worth[i] *= CHOICE;
  };
  const others = all.filter((each) => !chosen.some((other) => isOf(each, other)));
  for (const each of all) if (chosen.some((other) => isOf(each, other))) take(each);
  const out: Shift[] = [];
  while (out.length < INSIDE && others.length > 0) {
    let [best, most] = [-1, LEAST_WORTH];
    others.forEach(({ costs }, k) => {
      let sum = 0;
      for (let i = rim; i < worth.length; i++) sum += worth[i] * (1 - costs[i] / UNLIKE);
      if (sum > most) [best, most] = [k, sum];
    });
    if (best < 0) break;
    const [next] = others.splice(best, 1);
    take(next);
    out.push({ surface: next.surface, dx: next.dx, dy: next.dy });
  }
  return out;
}

/** So many of the shifts, the one that betters most what is left first, as long as one betters it by so much; `left` is changed. */
function chooseFrom(from: readonly Explained[], left: Float32Array, most: number, least: number): Shift[] {
  const all = [...from];
  const chosen: Shift[] = [];
  while (chosen.length < most && all.length > 0) {
    const before = least > 0 ? left.reduce((sum, each) => sum + each, 0) : Infinity;
    let [best, lowest] = [-1, before - least];
    for (let k = 0; k < all.length; k++) {
      const { costs, away } = all[k];
      let sum = away;
      for (let i = 0; i < left.length && sum < lowest; i++) sum += Math.min(left[i], costs[i]);
      if (sum < lowest) [best, lowest] = [k, sum];
    }
    if (best < 0) break;
    const { surface, dx, dy, costs } = all[best];
    all.splice(best, 1);
    chosen.push({ surface, dx, dy });
    for (let i = 0; i < left.length; i++) left[i] = Math.min(left[i], 0.25 * left[i] + 0.75 * costs[i]);
  }
  return chosen;
}

/** The shifts along one surface that explain the rim at all, the best of them. */
function shiftsAlong(
  window: Window,
  surface: number,
  rim: Int32Array,
  { inside, telling }: Inside,
  length: number,
  avoided: readonly Shift[]
): Explained[] {
  const { width } = window;
  const reach = Math.round(REACH * length);
  const used = avoided.filter((each) => each.surface === surface);
  const some = rim.filter((_, i) => i % SCREENED === 0);
  const screened: (Shift & { cost: number })[] = [];
  for (let dy = -reach; dy <= reach; dy++)
    for (let dx = -reach; dx <= reach; dx++) {
      const away = Math.hypot(dx, dy);
      // Nearer ones take the hole's own rim for what is in it.
      if (away < Math.max(4, length * 0.3)) continue;
      if (used.some((each) => Math.hypot(each.dx - dx, each.dy - dy) < OTHERWISE * length)) continue;
      const shift = { surface, dx, dy };
      let sum = 0;
      for (const at of some) sum += unlike(window, at, shift);
      if (sum >= 0.95 * UNLIKE * some.length) continue;
      screened.push({ ...shift, cost: sum / some.length + (AWAY * UNLIKE * away) / length });
    }
  screened.sort((one, other) => one.cost - other.cost);
  // Far ones, too: only these reach out of the middle of a large hole.
  const isFar = ({ dx, dy }: Shift): boolean => Math.hypot(dx, dy) > length;
  const kept = [true, false].flatMap((far) =>
    screened.filter((each) => isFar(each) === far).slice(0, BEST / 2)
  );
  return kept.flatMap(({ dx, dy }) => {
    const shift = { surface, dx, dy };
    const costs = new Float32Array(rim.length + inside.length);
    let sum = 0;
    for (let i = 0; i < rim.length; i++) sum += costs[i] = unlike(window, rim[i], shift);
    if (sum >= 0.9 * UNLIKE * rim.length) return [];
    // Inside it counts as it does on the rim next to there, wherever there is something to take.
    for (let i = 0; i < inside.length; i++) {
      const [x, y] = [inside[i] % width, Math.floor(inside[i] / width)];
      let cost = UNLIKE;
      if (laidAt(window, x, y, shift, laid)) {
        cost = 0;
        for (let j = 0; j < rim.length; j++) cost += telling[i][j] * costs[j];
      }
      costs[rim.length + i] = cost;
    }
    return [{ ...shift, costs, away: (AWAY * UNLIKE * rim.length * Math.hypot(dx, dy)) / length }];
  });
}

/** The same shifts in a window of `times` the size, each where it fits what it is best for. */
export function finerShifts(window: Window, shifts: readonly Shift[], times: number): Shift[] {
  const scaled = shifts.map(({ surface, dx, dy }) => ({ surface, dx: dx * times, dy: dy * times }));
  return bettered(window, scaled, times, () => 1);
}

/** Shifts along surfaces fall between pixels. */
export const betweenPixels = (window: Window, shifts: readonly Shift[]): Shift[] =>
  bettered(window, shifts, 3, ({ surface }) => (surface === 0 ? 0 : 0.25));

/** Each shift moved by up to so many steps to where it fits what it is best for. */
function bettered(
  window: Window,
  shifts: readonly Shift[],
  steps: number,
  stepOf: (shift: Shift) => number
): Shift[] {
  const rim = rimOf(window, Math.round(RIM * 1.5));
  const some = rim.filter((_, i) => i % Math.ceil(rim.length / MOST_FINER) === 0);
  const costs = shifts.map((shift) => some.map((at) => unlike(window, at, shift)));
  const best = Int32Array.from(some, (_, i) =>
    costs.reduce((least, own, k) => (own[i] < costs[least][i] ? k : least), 0)
  );
  return shifts.map((shift, k) => {
    const step = stepOf(shift);
    if (step === 0) return shift;
    const own = some.filter((_, i) => best[i] === k || costs[k][i] < UNLIKE / 4);
    let here = { ...shift, cost: Infinity };
    for (let j = -steps; j <= steps; j++)
      for (let i = -steps; i <= steps; i++) {
        const moved = { surface: shift.surface, dx: shift.dx + i * step, dy: shift.dy + j * step };
        let cost = 0;
        for (const at of own) cost += unlike(window, at, moved);
        cost += 1e-6 * Math.hypot(i, j);
        if (cost < here.cost) here = { ...moved, cost };
      }
    return { surface: here.surface, dx: here.dx, dy: here.dy };
  });
}

/**
 * Where the texture for a place is best taken from: the near place whose surroundings are most like those of the place itself,
 * up to light and colour, and that holds nothing which its surroundings do not.
 */
import { type FrameSize, halfDiagonal } from '../../math/frame-geometry.ts';
import type { PlacedPlanes } from '../../picture/tile/planes.ts';
import { type Box, type PlacedRegion, overlap, placed, writtenBox } from './box.ts';
import type { Region } from './patch.ts';
import { type Reader, readerOf, root } from './reader.ts';

/** Places of the rim, and of the inside, that are compared. */
const RIM_PLACES = 96;
const INSIDE_PLACES = 48;
/** How far from the place is looked, in radii; in steps of so much of a radius at first. */
const REACH = 9;
const STEP = 0.5;
/** A source lies at least so many radii from the place, so that they do not meet. */
const NEAREST = 2.3;
/** So many of the best are looked at more closely. */
const FINALISTS = 6;
/** What a source costs for each radius that it lies away, and for what it holds beyond its surroundings. */
const AWAY = 0.012;
const BUSY = 0.8;

type Place = readonly [number, number];

/** Places inside a stroke, and on its rim: in pixels of the planes. */
function placesOf({ points, radius }: PlacedRegion, planes: PlacedPlanes): { rim: Place[]; inside: Place[] } {
  const { originX, originY, scaleX, scaleY } = planes;
  const own = Array.from({ length: points.length / 2 }, (_, i): Place => [
    (points[2 * i] - originX) * scaleX - 0.5,
    (points[2 * i + 1] - originY) * scaleY - 0.5
  ]);
  const r = radius * scaleX;
  const within = ([x, y]: Place, by: number): boolean =>
    own.some(([px, py]) => Math.hypot(x - px, y - py) < by);
  const every = Math.max(1, Math.floor(own.length / 12));
  const centres = own.filter((_, i) => i % every === 0);
  const rim: Place[] = [];
  const inside: Place[] = [];
  for (const [x, y] of centres) {
    for (let i = 0; i < 32; i++) {
      const angle = (i / 32) * 2 * Math.PI;
      for (const by of [1.12, 1.35, 1.58]) {
        const at: Place = [x + Math.cos(angle) * r * by, y + Math.sin(angle) * r * by];
        if (!within(at, r * 1.05)) rim.push(at);
      }
    }
    for (let i = 0; i < 24; i++) {
      const [angle, by] = [i * 2.39996, Math.sqrt((i + 0.5) / 24)];
      inside.push([x + Math.cos(angle) * r * by, y + Math.sin(angle) * r * by]);
    }
  }
  const thinned = (all: Place[], most: number): Place[] =>
    all.filter((_, i) => Math.floor((i * most) / all.length) !== Math.floor(((i - 1) * most) / all.length));
  return {
    rim: rim.length > RIM_PLACES ? thinned(rim, RIM_PLACES) : rim,
    inside: inside.length > INSIDE_PLACES ? thinned(inside, INSIDE_PLACES) : inside
  };
}

/** Roots of all three colours at places, moved; null where some of them lie beyond the planes. */
function rootsAt(
  read: Reader,
  places: readonly Place[],
  dx: number,
  dy: number,
  { width, height }: PlacedPlanes
): Float32Array | null {
  const out = new Float32Array(places.length * 3);
  for (let i = 0; i < places.length; i++) {
    const [x, y] = [Math.round(places[i][0] + dx), Math.round(places[i][1] + dy)];
    if (x < 0 || y < 0 || x >= width || y >= height) return null;
    for (let c = 0; c < 3; c++) out[i * 3 + c] = root(read(c as 0, x, y));
  }
  return out;
}

/** Mean and variance of each colour, the variances summed. */
function spread(values: Float32Array): { means: number[]; variance: number } {
  const count = values.length / 3;
  const means = [0, 0, 0];
  for (let i = 0; i < values.length; i++) means[i % 3] += values[i] / count;
  let variance = 0;
  for (let i = 0; i < values.length; i++) variance += (values[i] - means[i % 3]) ** 2 / count;
  return { means, variance };
}

/**
 * The offset to the source in field units; `others`: patches that are there already, which are no source. Where the whole
 * neighbourhood lies beyond the frame or in other patches, a place beside it.
 */
export function findSource(
  planes: PlacedPlanes,
  region: Region,
  frame: FrameSize,
  others: readonly Region[] = []
): [number, number] {
  const unit = halfDiagonal(frame);
  const at = placed(region, frame);
  const { rim, inside } = placesOf(at, planes);
  const read = readerOf(planes, planes);
  const radius = at.radius * planes.scaleX;
  const own = rim.length > 0 ? rootsAt(read, rim, 0, 0, planes) : null;
  const rimOwn = own ?? new Float32Array(0);
  const taken = others.map((other) => writtenBox(other, frame));
  const mine = writtenBox(region, frame);
  /** Whether a source lies clear of the place itself and of other patches. */
  const isFree = (dx: number, dy: number): boolean => {
    const [sx, sy] = [dx / planes.scaleX, dy / planes.scaleY];
    if (!isApart(at, sx, sy)) return false;
    const box: Box = {
      left: mine.left + sx,
      right: mine.right + sx,
      top: mine.top + sy,
      bottom: mine.bottom + sy
    };
    return !taken.some((each) => overlap(each, box));
  };
  const costOf = (dx: number, dy: number): number => {
    if (!isFree(dx, dy)) return Infinity;
    const [there, held] = [rootsAt(read, rim, dx, dy, planes), rootsAt(read, inside, dx, dy, planes)];
    if (!there || !held) return Infinity;
    const difference = new Float32Array(there.length);
    for (let i = 0; i < there.length; i++) difference[i] = rimOwn.length > 0 ? rimOwn[i] - there[i] : 0;
    const { means, variance } = spread(difference);
    const [about, within] = [spread(there), spread(held)];
    // Light of another kind (sun for shadow) is taken only where nothing else is like the place.
    const light = means.reduce((sum, mean) => sum + mean * mean, 0);
    const busy = Math.max(0, within.variance - about.variance);
    const moved = within.means.reduce((sum, mean, c) => sum + (mean - about.means[c]) ** 2, 0);
    return (
      Math.sqrt(variance + 0.25 * light + BUSY * (busy + moved)) * (1 + (AWAY * Math.hypot(dx, dy)) / radius)
    );
  };
  const found: { dx: number; dy: number; cost: number }[] = [];
  const step = Math.max(1, radius * STEP);
  const reach = Math.ceil((REACH * radius) / step);
  for (let j = -reach; j <= reach; j++)
    for (let i = -reach; i <= reach; i++) {
      const [dx, dy] = [i * step, j * step];
      if (Math.hypot(dx, dy) < NEAREST * radius) continue;
      const cost = costOf(dx, dy);
      if (cost < Infinity) found.push({ dx, dy, cost });
    }
  found.sort((one, other) => one.cost - other.cost);
  let best = found[0];
  for (const finalist of found.slice(0, FINALISTS)) {
    let here = finalist;
    for (let by = step / 2; by >= 0.5; by /= 2)
      for (let j = -1; j <= 1; j++)
        for (let i = -1; i <= 1; i++) {
          const [dx, dy] = [here.dx + i * by, here.dy + j * by];
          const cost = costOf(dx, dy);
          if (cost < here.cost) here = { dx, dy, cost };
        }
    if (here.cost < best.cost) best = here;
  }
  const { dx, dy } = best ?? { dx: (mine.left > at.radius * 4 ? -3 : 3) * radius, dy: 0 };
  return [dx / planes.scaleX / unit, dy / planes.scaleY / unit];
}

/** Whether a stroke and its source, moved by sensor pixels, keep apart. */
function isApart({ points, radius }: PlacedRegion, dx: number, dy: number): boolean {
  const every = Math.max(2, 2 * Math.floor(points.length / 2 / 24));
  for (let i = 0; i < points.length; i += every)
    for (let j = 0; j < points.length; j += every)
      if (Math.hypot(points[i] + dx - points[j], points[i + 1] + dy - points[j + 1]) < NEAREST * radius)
        return false;
  return true;
}

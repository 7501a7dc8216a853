/** Where a light opening ends: inside of the reveals that it lights, and below the land that is seen through it. */
import type { Point } from '../../../math/frame-geometry.ts';
import { quantiles } from '../../../math/quantiles.ts';
import type { Looks } from '../sky/looks.ts';
import { evenly, placeIn, samples } from './quad-samples.ts';

/** What is seen through an opening is as light as this share of it is not, less some stops. */
const SEEN = 0.85;
const LESS = 0.7;
/**
 * A line belongs to it with so much of the share that the best of its lines has; with less if so many lines have as little:
 * leaves or bars are before them, where at a reveal the share falls at once. Reveals take up so much of it at most.
 */
const ENOUGH = 0.39;
const LITTLE = 0.15;
const MANY = 0.06;
const REVEAL = 0.4;
/** Stops by which land is lighter than the wall, and shares of the height that it takes up: less is a sill. */
const LAND = 1.2;
const LEAST_LAND = 0.08;
const MOST_LAND = 0.6;
/** What lies further down is a wall as light as this share of it. */
const WALL = 0.3;

/** Corners from corners, on the cells of the picture; `beside` are the stops of what lies to both sides. */
export function fitOpening(corners: readonly Point[], looks: Looks, beside: number): Point[] {
  const inside = samples(evenly(0, 1), evenly(0, 1), corners, looks);
  const light = quantiles(inside.flat())(SEEN) - LESS;
  const shareOf = (line: readonly number[]): number =>
    line.filter((stops) => stops > light).length / line.length;
  const columns = samples(evenly(0, 1), evenly(0, 1), turned(corners), looks).map(shareOf);
  const rows = inside.map(shareOf);
  const [left, right] = [firstOf(columns), 1 - firstOf([...columns].reverse())];
  const [top, foot] = [firstOf(rows), 1 - firstOf([...rows].reverse())];
  const seen = [
    placeIn(corners, left, top),
    placeIn(corners, right, top),
    placeIn(corners, right, foot),
    placeIn(corners, left, foot)
  ];
  const below = 1 + landBelow(seen, looks, beside);
  return [seen[0], seen[1], placeIn(seen, 1, below), placeIn(seen, 0, below)];
}

/** Corners for which across is down. */
const turned = ([a, b, c, d]: readonly Point[]): Point[] => [a, d, c, b];

/** Share of the way at which the first line lies that shows enough of what is seen through the opening. */
function firstOf(shares: readonly number[]): number {
  const most = Math.max(...shares);
  const [enough, little] = [ENOUGH, LITTLE].map((of) => shares.findIndex((share) => share >= of * most));
  const first = enough - little > MANY * shares.length ? little : enough;
  return first > REVEAL * shares.length ? 0 : first / shares.length;
}

/** Share of the height by which what is seen below the sky goes further down: darker than it, and lighter than the wall. */
function landBelow(corners: readonly Point[], looks: Looks, beside: number): number {
  const below = samples(evenly(0, 1), evenly(1, 2), corners, looks).map((row) =>
    row.length > 0 ? quantiles(row)(0.5) : -Infinity
  );
  const wall = Math.max(beside, quantiles(below.filter(Number.isFinite))(WALL));
  const share = below.findIndex((light) => light < wall + LAND) / below.length;
  return share < LEAST_LAND || share > MOST_LAND ? 0 : share;
}

/**
 * Windows, found by themselves: pieces much lighter than what is about them, whose sides are upright as things are at that place
 * of the picture. What the sun draws on floors and walls is as light and slants; lamps are small, or warmer.
 */
import { quantiles } from '../../../math/quantiles.ts';
import type { Point } from '../../../math/frame-geometry.ts';
import type { Guide } from '../guide.ts';
import { fillOutline } from '../parts/outline.ts';
import { type Looks, reduced } from '../sky/looks.ts';
import { fitOpening } from './fit-opening.ts';
import { lightPieces } from './light-pieces.ts';
import { evenly, samples } from './quad-samples.ts';
import { type Lean, plumbLean } from './plumb-lean.ts';
import { type UprightQuad, areaOf, cornersOf, isWithin, uprightQuad } from './upright-quad.ts';

/** Stops by which the lightest is above the middle of a picture that has windows. */
const ABOVE_MIDDLE = 2.2;
/** Stops below the lightest at which pieces are looked for, the first and the steps to the last. */
const FIRST = 0.5;
const STEP = 0.5;
/** Stops above the middle of the picture at which the search ends. */
const LAST = 1.2;
/** Heights and areas of the smallest window, in shares of the longer edge and of the picture. */
const LEAST_HEIGHT = 0.05;
const LEAST_AREA = 0.002;
/** Share of that which a piece takes up at least that others may belong to. */
const LEAST_PIECE = 0.3;
const FILLS = 0.25;
/** Stops by which a window is lighter than what lies to both sides of it, and how far away that is, in shares of the longer edge. */
const LIGHTER = 1.2;
const AWAY = 0.012;
/** Stops of blue against red by which lamps are warmer than windows. */
const WARMER = 0.7;
/** Stops by which other windows are darker than the lightest at most. */
const DIMMER = 1.3;
/** How much better an opening has to be than that which lighter light tells: the lightest is what is seen through it. */
const BETTER = 0.3;
/** By how much larger it is if the other was but a part of it, and how much worse it may be then. */
const PART = 1.12;
const WORSE = 0.5;
/** Stops by which it is lighter in the middle if the other was but a reveal that it lights. */
const LIT = 0.7;
/** How far from each other the parts of one opening may be, in shares of the larger one's width. */
const APART = 0.4;
/** Share of its height that the smaller of them has beside the larger. */
const BESIDE = 0.7;

interface Opening {
  quad: UprightQuad;
  /** Middle stops of light, and of blue against red. */
  light: number;
  hue: number;
}

/** Shares of windows in the cells of the guide, 0..1; all 0 where none is found. */
export function findWindows({ grid, stops, hues }: Guide): Float32Array {
  const out = new Float32Array(stops.length);
  const coarse = reduced({ width: grid.width, height: grid.height, stops, hue: hues });
  const scale = grid.width / coarse.width;
  for (const corners of openingsOf(coarse))
    fillOutline(
      corners.map(([x, y]) => [(x + 0.5) * scale - 0.5, (y + 0.5) * scale - 0.5]),
      grid,
      out
    );
  return out;
}

/** The corners of the openings of a picture, on its own cells. */
function openingsOf(looks: Looks): Point[][] {
  const level = quantiles(looks.stops);
  const [middle, lightest] = [level(0.5), level(0.997)];
  if (lightest - middle < ABOVE_MIDDLE) return [];
  const lean = plumbLean(looks);
  let found: readonly Opening[] = [];
  for (let above = lightest - FIRST; above > middle + LAST; above -= STEP)
    found = bestOf(found, openingsAbove(looks, above, lean));
  const coldest = Math.max(...found.map(({ hue }) => hue));
  const most = Math.max(...found.map(({ light }) => light));
  return found
    .filter(({ hue, light }) => hue > coldest - WARMER && light > most - DIMMER)
    .map(({ quad }) => fitOpening(cornersOf(quad), looks, lightBeside(quad, looks)));
}

/** Openings, of which those that overlap are one: the first, unless another is clearly better, or it was but a part of that. */
function bestOf(known: readonly Opening[], more: readonly Opening[]): readonly Opening[] {
  return more.reduce<readonly Opening[]>((best, opening) => {
    const same = best.filter((other) => overlaps(other.quad, opening.quad));
    const isBetter = (other: Opening): boolean => {
      const better = scoreOf(opening) - scoreOf(other);
      const isLarger = areaOf(opening.quad) > PART * areaOf(other.quad);
      return better > BETTER || (isLarger && (better > -WORSE || opening.light > other.light + LIT));
    };
    return same.every(isBetter) ? [...best.filter((other) => !same.includes(other)), opening] : best;
  }, known);
}

const scoreOf = ({ quad: { left, right, top, filled } }: Opening): number =>
  left.share + right.share + top.share + filled;

/** Openings among what is lighter than some stops; pieces that a trunk parts are one opening, if they make one. */
function openingsAbove(looks: Looks, above: number, lean: Lean): Opening[] {
  const least = LEAST_AREA * LEAST_PIECE * looks.stops.length;
  return lightPieces(looks, above).flatMap((pieces) => {
    const boxed = pieces.map(({ cells }) => ({ cells, box: boxOf(cells, looks.width) }));
    return boxed
      .filter((piece) => piece.cells.length > least && mayOpen(piece, looks))
      .flatMap((piece) => {
        const beside = boxed.filter(
          ({ cells, box }) => cells.length < piece.cells.length && areBeside(piece.box, box)
        );
        return [piece.cells, ...beside.map(({ cells }) => joined(piece.cells, cells))].flatMap(
          (cells) => openingOf(cells, looks, lean) ?? []
        );
      });
  });
}

function joined(one: Int32Array, other: Int32Array): Int32Array {
  const both = new Int32Array(one.length + other.length);
  both.set(one);
  both.set(other, one.length);
  return both;
}

function openingOf(cells: Int32Array, looks: Looks, lean: Lean): Opening | null {
  const quad = uprightQuad(cells, looks, lean);
  if (!quad) return null;
  const [[, a], [, b], [, c], [, d]] = cornersOf(quad);
  const tall = (c + d - a - b) / 2;
  if (tall < LEAST_HEIGHT * Math.max(looks.width, looks.height)) return null;
  if (areaOf(quad) < LEAST_AREA * looks.stops.length) return null;
  const [light, hue] = [looks.stops, looks.hue].map((of) =>
    quantiles(Float32Array.from(cells, (at) => of[at]))(0.5)
  );
  return light - lightBeside(quad, looks) < LIGHTER ? null : { quad, light, hue };
}

interface Box {
  left: number;
  right: number;
  top: number;
  bottom: number;
}

/** Whether a smaller piece lies close beside a larger one, and between its upper and lower ends. */
function areBeside(a: Box, b: Box): boolean {
  const gap = Math.max(b.left - a.right, a.left - b.right);
  const shared = Math.min(a.bottom, b.bottom) - Math.max(a.top, b.top);
  return gap > 0 && gap < APART * (a.right - a.left) && shared > BESIDE * (b.bottom - b.top);
}

/** Whether a piece is tall enough, and fills enough of the box about it: what does not is spared the rest. */
function mayOpen({ cells, box }: { cells: Int32Array; box: Box }, { width, height }: Looks): boolean {
  const tall = box.bottom - box.top + 1;
  const least = (LEAST_HEIGHT / 2) * Math.max(width, height);
  return tall >= least && cells.length > FILLS * tall * (box.right - box.left + 1);
}

function boxOf(cells: Int32Array, width: number): Box {
  const box: Box = { left: Infinity, right: 0, top: Infinity, bottom: 0 };
  for (const cell of cells) {
    const [x, y] = [cell % width, Math.floor(cell / width)];
    box.left = Math.min(box.left, x);
    box.right = Math.max(box.right, x);
    box.top = Math.min(box.top, y);
    box.bottom = Math.max(box.bottom, y);
  }
  return box;
}

/** Stops of what lies to both sides of an opening, a little away from it. */
function lightBeside(quad: UprightQuad, looks: Looks): number {
  const away = AWAY * Math.max(looks.width, looks.height);
  const corners = cornersOf(quad);
  const wide = (corners[1][0] + corners[2][0] - corners[0][0] - corners[3][0]) / 2;
  const stops = samples([-away / wide, 1 + away / wide], evenly(0, 1), corners, looks).flat();
  return stops.length > 0 ? quantiles(stops)(0.5) : -Infinity;
}

function overlaps(one: UprightQuad, other: UprightQuad): boolean {
  const [a, b] = [one, other].map((of) => {
    const corners = cornersOf(of);
    const middle = (axis: 0 | 1): number => corners.reduce((sum, corner) => sum + corner[axis], 0) / 4;
    return [middle(0), middle(1)] as const;
  });
  return isWithin(one, ...b) || isWithin(other, ...a);
}

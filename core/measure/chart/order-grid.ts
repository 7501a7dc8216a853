/** Puts corners of a chart in order: which column and row of the board each is. */
import type { Point } from '../../math/frame-geometry.ts';
import type { Corner } from './find-corners.ts';

export interface BoardCorner {
  column: number;
  row: number;
  at: Point;
}

/** Fewest columns and rows of a board, and corners of it that must be seen. */
const FEWEST_SIDE = 3;
const FEWEST_CORNERS = 15;

/** Index of the corner nearest to a place, within a distance; -1 when there is none. */
function nearest(corners: readonly Corner[], place: Point, within: number): number {
  let best = -1;
  let least = within;
  corners.forEach(({ at }, i) => {
    const d = Math.hypot(at[0] - place[0], at[1] - place[1]);
    if (d < least) {
      least = d;
      best = i;
    }
  });
  return best;
}

/** The neighbour of a corner along a direction: the nearest one in a narrow cone. */
function neighbour(corners: readonly Corner[], from: number, direction: Point): number {
  const { at } = corners[from];
  let best = -1;
  let least = Infinity;
  corners.forEach((other, i) => {
    if (i === from) return;
    const dx = other.at[0] - at[0];
    const dy = other.at[1] - at[1];
    const distance = Math.hypot(dx, dy);
    if (distance >= least || (dx * direction[0] + dy * direction[1]) / distance < 0.95) return;
    least = distance;
    best = i;
  });
  return best;
}

/** Grows a board from one corner and its neighbours along its two edges. */
function grow(corners: readonly Corner[], seed: number): Map<string, number> | null {
  const [u, v] = corners[seed].directions;
  const right = neighbour(corners, seed, u);
  const down = neighbour(corners, seed, v);
  if (right < 0 || down < 0) return null;
  const board = new Map<string, number>([
    ['0,0', seed],
    ['1,0', right],
    ['0,1', down]
  ]);
  const taken = new Set(board.values());
  const at = (column: number, row: number): Point | null => {
    const index = board.get(`${column},${row}`);
    return index === undefined ? null : corners[index].at;
  };
  // Each place is foretold from two in line with it, or from three of a square; the step there says how far to look.
  const foretell = (column: number, row: number): { place: Point; step: number } | null => {
    const guesses: { place: Point; step: number }[] = [];
    for (const [dx, dy] of [
      [1, 0],
      [-1, 0],
      [0, 1],
      [0, -1]
    ] as const) {
      const near = at(column + dx, row + dy);
      const far = at(column + 2 * dx, row + 2 * dy);
      if (near && far) {
        const further = at(column + 3 * dx, row + 3 * dy);
        // With three in line the change of the step is carried on too.
        const place: Point = further
          ? [3 * near[0] - 3 * far[0] + further[0], 3 * near[1] - 3 * far[1] + further[1]]
          : [2 * near[0] - far[0], 2 * near[1] - far[1]];
        guesses.push({ place, step: Math.hypot(near[0] - far[0], near[1] - far[1]) });
      }
      for (const [sx, sy] of dx === 0
        ? ([
            [1, 0],
            [-1, 0]
          ] as const)
        : ([
            [0, 1],
            [0, -1]
          ] as const)) {
        const side = at(column + sx, row + sy);
        const corner = at(column + dx + sx, row + dy + sy);
        if (near && side && corner) {
          guesses.push({
            place: [near[0] + side[0] - corner[0], near[1] + side[1] - corner[1]],
            step: Math.min(
              Math.hypot(near[0] - corner[0], near[1] - corner[1]),
              Math.hypot(side[0] - corner[0], side[1] - corner[1])
            )
          });
        }
      }
    }
    if (guesses.length === 0) return null;
    const mean = (pick: (g: (typeof guesses)[number]) => number): number =>
      guesses.reduce((sum, g) => sum + pick(g), 0) / guesses.length;
    return { place: [mean((g) => g.place[0]), mean((g) => g.place[1])], step: mean((g) => g.step) };
  };
  const tried = new Set<string>();
  for (let grown = true; grown;) {
    grown = false;
    for (const key of [...board.keys()]) {
      const [column, row] = key.split(',').map(Number);
      for (const [dx, dy] of [
        [1, 0],
        [-1, 0],
        [0, 1],
        [0, -1],
        [1, 1],
        [-1, 1],
        [1, -1],
        [-1, -1]
      ] as const) {
        const next = `${column + dx},${row + dy}`;
        if (board.has(next)) continue;
        const foretold = foretell(column + dx, row + dy);
        const attempt = foretold && `${next}:${foretold.place.map(Math.round).join()}`;
        if (!foretold || tried.has(attempt!)) continue;
        tried.add(attempt!);
        const found = nearest(corners, foretold.place, foretold.step * 0.3);
        if (found < 0 || taken.has(found)) continue;
        board.set(next, found);
        taken.add(found);
        grown = true;
      }
    }
  }
  return board;
}

/** The largest board that the corners form, or null when they form none. */
export function orderGrid(corners: readonly Corner[]): BoardCorner[] | null {
  let best: Map<string, number> | null = null;
  const seen = new Set<number>();
  for (let seed = 0; seed < corners.length; seed++) {
    // A corner of a board already grown would grow the same one.
    if (seen.has(seed)) continue;
    const board = grow(corners, seed);
    if (!board) continue;
    if (board.size >= FEWEST_CORNERS) for (const index of board.values()) seen.add(index);
    if (!best || board.size > best.size) best = board;
    if (best.size > corners.length * 0.7) break;
  }
  if (!best || best.size < FEWEST_CORNERS) return null;
  const placed = [...best].map(([key, index]) => {
    const [column, row] = key.split(',').map(Number);
    return { column, row, at: corners[index].at };
  });
  const columns = new Set(placed.map((corner) => corner.column)).size;
  const rows = new Set(placed.map((corner) => corner.row)).size;
  return columns >= FEWEST_SIDE && rows >= FEWEST_SIDE ? placed : null;
}

/** What the pointer draws on the sheet in the Lines step, by the tool in hand. */
import type { Point } from '$core/math/frame-geometry.ts';
import { orderCorners } from '$core/lines/known-rectangle.ts';
import { fieldToUpright } from '$core/geometry/projection.ts';
import type { Bench } from './bench-state.svelte.ts';
import { levelByEdge } from './true-up.ts';

/** Drags shorter than this, in pixels, are clicks. */
const SHORTEST = 12;
/** A lasso of fewer places is a press on one line. */
const LEAST_LASSO = 4;
/** Marks beyond this, in field units, lie outside any frame. */
const FURTHEST = 1.5;

/** Whether a place lies inside a closed polygon (even-odd rule). */
export function isInPolygon([x, y]: Point, polygon: readonly Point[]): boolean {
  let inside = false;
  for (let i = 0, j = polygon.length - 1; i < polygon.length; j = i++) {
    const [ax, ay] = polygon[j];
    const [bx, by] = polygon[i];
    if (ay > y !== by > y && x < ((bx - ax) * (y - ay)) / (by - ay) + ax) inside = !inside;
  }
  return inside;
}

interface Surroundings {
  /** From the sheet to field positions as the glass put them; null where there is no picture. */
  toField: (place: Point) => Point | null;
  /** From upright to sheet places. */
  toSheet: (upright: Point) => Point;
}

export function createLinesTool(bench: Bench, { toField, toSheet }: Surroundings) {
  let line = $state<{ a: Point; b: Point } | null>(null);
  let lasso = $state<Point[]>([]);
  let corners = $state<Point[]>([]);
  const newId = (): string => crypto.randomUUID().slice(0, 8);

  function fieldOf(place: Point): Point | null {
    const field = toField(place);
    return field && field.every((value) => Math.abs(value) <= FURTHEST) ? field : null;
  }

  function endLine(a: Point, b: Point): void {
    if (Math.hypot(a[0] - b[0], a[1] - b[1]) < SHORTEST) return;
    const [from, to] = [fieldOf(a), fieldOf(b)];
    if (!from || !to) return;
    const { tool } = bench.view;
    const { marks, measures } = bench.recipe.lines;
    if (tool === 'edge') levelByEdge(bench, from, to);
    else if (tool === 'length')
      bench.change('lines', { measures: [...measures, { id: newId(), a: from, b: to }] });
    else if (tool === 'plumb' || tool === 'level')
      bench.change('lines', { marks: [...marks, { id: newId(), kind: tool, a: from, b: to }] });
  }

  function endLasso(outline: readonly Point[], add: boolean): void {
    const { projection } = bench.plan;
    const inside = bench.recipe.lines.marks.filter(({ a, b }) =>
      [a, b].some((end) => {
        const upright = fieldToUpright(end, projection);
        return upright && isInPolygon(toSheet(upright), outline);
      })
    );
    const ids = inside.map(({ id }) => id);
    const before = add ? bench.view.chosen.filter((id) => !ids.includes(id)) : [];
    bench.view.chosen = [...before, ...ids];
  }

  function addCorner(place: Point): void {
    const field = fieldOf(place);
    if (!field) return;
    corners = [...corners, field];
    if (corners.length < 4) return;
    const ordered = orderCorners(corners);
    corners = [];
    const ratio = bench.recipe.lines.rectangle?.ratio ?? 0.75;
    bench.view.linesSaid = '';
    bench.change('lines', { rectangle: { corners: ordered, ratio } });
  }

  return {
    get line() {
      return line;
    },
    get lasso() {
      return lasso;
    },
    /** Corners pressed so far, as field positions. */
    get corners() {
      return corners;
    },
    down(place: Point): void {
      if (bench.view.tool === 'rectangle') addCorner(place);
      else if (bench.view.tool === 'choose') lasso = [place];
      else line = { a: place, b: place };
    },
    move(place: Point): void {
      if (line) line = { a: line.a, b: place };
      else if (lasso.length > 0) lasso = [...lasso, place];
    },
    up(add: boolean): void {
      if (line) endLine(line.a, line.b);
      else if (lasso.length >= LEAST_LASSO) endLasso(lasso, add);
      line = null;
      lasso = [];
    },
    drop(): void {
      line = null;
      lasso = [];
      corners = [];
    }
  };
}

/** What the pointer draws on the sheet in the Lines step, by the tool in hand. */
import type { Point } from '$core/math/frame-geometry.ts';
import { orderCorners } from '$core/steps/lines/known-rectangle.ts';
import type { Bench } from '../state/bench-state.svelte.ts';
import type { SheetState } from '../sheet/sheet-state.svelte.ts';
import type { SheetTool } from '../sheet/sheet-tool.ts';
import { levelByEdge } from './true-up.ts';
import { linesView } from './lines-view.svelte.ts';

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

export interface LinesToolState extends SheetTool {
  /** The line being drawn, and the outline drawn around several, on the sheet. */
  readonly line: { a: Point; b: Point } | null;
  readonly lasso: readonly Point[];
  /** Corners pressed so far, as field positions. */
  readonly corners: readonly Point[];
  /** Something that was drawn before is being moved, and where; null when it was let go. */
  dragged(place: Point | null): void;
}

export function createLinesTool(bench: Bench, sheet: SheetState): LinesToolState {
  let dragging = $state<Point | null>(null);
  let line = $state<{ a: Point; b: Point } | null>(null);
  let lasso = $state<Point[]>([]);
  let corners = $state<Point[]>([]);
  const newId = (): string => crypto.randomUUID().slice(0, 8);

  function fieldOf(place: Point): Point | null {
    const field = sheet.toField(place);
    return field && field.every((value) => Math.abs(value) <= FURTHEST) ? field : null;
  }

  function endLine(a: Point, b: Point): void {
    if (Math.hypot(a[0] - b[0], a[1] - b[1]) < SHORTEST) return;
    const [from, to] = [fieldOf(a), fieldOf(b)];
    if (!from || !to) return;
    const { tool } = linesView(bench);
    const { marks, measures } = bench.recipe.lines;
    if (tool === 'edge') levelByEdge(bench, from, to);
    else if (tool === 'length')
      bench.change('lines', { measures: [...measures, { id: newId(), a: from, b: to }] });
    else if (tool === 'plumb' || tool === 'level')
      bench.change('lines', { marks: [...marks, { id: newId(), kind: tool, a: from, b: to }] });
  }

  function endLasso(outline: readonly Point[], add: boolean): void {
    const inside = bench.recipe.lines.marks.filter(({ a, b }) =>
      [a, b].some((end) => {
        const place = sheet.toPlace(end);
        return place && isInPolygon(place, outline);
      })
    );
    const ids = inside.map(({ id }) => id);
    const before = add ? linesView(bench).chosen.filter((id) => !ids.includes(id)) : [];
    linesView(bench).chosen = [...before, ...ids];
  }

  function addCorner(place: Point): void {
    const field = fieldOf(place);
    if (!field) return;
    corners = [...corners, field];
    if (corners.length < 4) return;
    const ordered = orderCorners(corners);
    corners = [];
    const ratio = bench.recipe.lines.rectangle?.ratio ?? 0.75;
    linesView(bench).said = '';
    bench.change('lines', { rectangle: { corners: ordered, ratio } });
  }

  return {
    cursor: 'crosshair',
    get magnified() {
      return dragging ?? line?.b ?? null;
    },
    dragged(place) {
      dragging = place;
    },
    get line() {
      return line;
    },
    get lasso() {
      return lasso;
    },
    get corners() {
      return corners;
    },
    down({ place, empty, draggable }) {
      // A new line may begin on one that is there; only what can be dragged keeps the press for itself.
      const corner = linesView(bench).tool === 'rectangle' && bench.recipe.lines.rectangle === null;
      if (!empty && draggable && !corner) return false;
      if (linesView(bench).tool === 'rectangle') addCorner(place);
      else if (linesView(bench).tool === 'choose') lasso = [place];
      else line = { a: place, b: place };
      return true;
    },
    move(place) {
      if (line) line = { a: line.a, b: place };
      else if (lasso.length > 0) lasso = [...lasso, place];
    },
    up({ shiftKey }) {
      if (line) endLine(line.a, line.b);
      else if (lasso.length >= LEAST_LASSO) endLasso(lasso, shiftKey);
      line = null;
      lasso = [];
    },
    drop() {
      line = null;
      lasso = [];
      corners = [];
    }
  };
}

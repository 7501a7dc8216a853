/** What the pointer draws on the sheet in the Mend step. */
import type { Point } from '$core/math/frame-geometry.ts';
import { MOST_POINTS } from '$core/steps/mend/patch.ts';
import { thinnedOut } from '../sheet/thin-out.ts';
import type { SheetState } from '../sheet/sheet-state.svelte.ts';
import type { SheetTool } from '../sheet/sheet-tool.ts';
import type { Bench } from '../state/bench-state.svelte.ts';
import { addPatch, mendFull } from './edit-mend.svelte.ts';
import { mendView } from './mend-view.svelte.ts';

/** By how much of half the diagonal a line drawn by hand may be missed. */
const FINE = 0.0004;
/** Places beyond this, in field units, lie outside any frame. */
const FURTHEST = 1.5;
/** A stroke shorter than this, in pixels, is a spot. */
const SPOT = 4;

export interface MendToolState extends SheetTool {
  readonly line: readonly Point[];
  /** Radius of what is drawn on the sheet, in pixels. */
  readonly radius: number;
  /** Pixels of the sheet to a field unit about a place. */
  scaleAt(place: Point): number;
}

export function createMendTool(bench: Bench, sheet: SheetState): MendToolState {
  let line = $state.raw<Point[]>([]);
  const mine = mendView(bench);

  function fieldOf(place: Point): Point | null {
    const field = sheet.toField(place);
    return field && field.every((value) => Math.abs(value) <= FURTHEST) ? field : null;
  }
  function scaleAt(at: Point): number {
    const [one, other] = [fieldOf(at), fieldOf([at[0] + 10, at[1]])];
    const away = one && other ? Math.hypot(other[0] - one[0], other[1] - one[1]) : 0;
    return away > 0 ? 10 / away : 400;
  }

  return {
    get cursor() {
      return mine.tool === 'move' ? 'default' : 'none';
    },
    magnified: null,
    get line() {
      return line;
    },
    get radius() {
      const at: Point = sheet.pointer ?? [sheet.size.width / 2, sheet.size.height / 2];
      return (mine.brush.size / 1000) * scaleAt(at);
    },
    scaleAt,
    down({ place, empty, draggable }) {
      if (mine.tool === 'move' || (!empty && draggable) || !bench.recipe.mend.enabled) return false;
      mine.said = mendFull(bench) ?? '';
      if (!mine.said) line = [place];
      return true;
    },
    move(place) {
      if (line.length > 0) line = [...line, place];
    },
    up() {
      const drawn = line;
      line = [];
      const { tool } = mine;
      if (drawn.length === 0 || tool === 'move') return;
      const long = drawn.some(([x, y]) => Math.hypot(x - drawn[0][0], y - drawn[0][1]) > SPOT);
      if (tool === 'cable' && !long) {
        mine.said = 'Draw along the cable, from one end to the other.';
        return;
      }
      const fields = (long ? drawn : drawn.slice(0, 1)).flatMap((place): Point[] => {
        const field = fieldOf(place);
        return field ? [field] : [];
      });
      const points = thinnedOut(fields, FINE)
        .slice(0, MOST_POINTS)
        .flat()
        .map((value) => Math.round(value * 1e5) / 1e5);
      void addPatch(bench, sheet, tool, points);
    },
    drop() {
      line = [];
    }
  };
}

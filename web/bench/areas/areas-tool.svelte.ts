/** What the pointer draws on the sheet in the Areas step, by the tool in hand. */
import type { Point } from '$core/math/frame-geometry.ts';
import { MOST_POINTS, MOST_STROKES, type Stroke } from '$core/steps/areas/parts/brush.ts';
import { MOST_CORNERS } from '$core/steps/areas/parts/outline.ts';
import type { Meeting } from '$core/steps/areas/parts/part-base.ts';
import type { PartOf } from '$core/steps/areas/parts/part.ts';
import { MOST_PICKS } from '$core/steps/areas/parts/ranges.ts';
import { type AreasSettings, changesPicture } from '$core/steps/areas/step.ts';
import type { Bench } from '../state/bench-state.svelte.ts';
import type { SheetState } from '../sheet/sheet-state.svelte.ts';
import type { SheetTool } from '../sheet/sheet-tool.ts';
import { areasView } from './areas-view.svelte.ts';
import { addPart, areasOf, changePart, chosenArea, newId, partOf, putAreas } from './edit-areas.ts';
import { heldRound, heldSquare, heldStraight } from './hold-straight.ts';
import { markAt } from './mark-at.ts';
import { type GrowingLine, growingLine } from '../sheet/growing-line.ts';
import { thinnedOut } from '../sheet/thin-out.ts';

/** Drags shorter than this, in pixels, are clicks. */
const SHORTEST = 8;
/** A press this near to a polygon's first corner, in pixels, closes it. */
const CLOSES = 10;
/** Places beyond this, in field units, lie outside any frame. */
const FURTHEST = 1.5;
/** By how much of half the diagonal a line drawn by hand may be missed. */
const FINE = 0.0006;

export interface AreasToolState extends SheetTool {
  /** What is being drawn, on the sheet. */
  readonly drag: { from: Point; to: Point } | null;
  readonly line: readonly Point[];
  /** Whether the picture follows what is painted. */
  readonly follows: boolean;
  /** Whether what is being drawn is taken away. */
  readonly takes: boolean;
  /** Radius of the brush on the sheet, in pixels. */
  readonly radius: number;
  close(): void;
}

export function createAreasTool(bench: Bench, sheet: SheetState): AreasToolState {
  let drag = $state<{ from: Point; to: Point } | null>(null);
  let line = $state.raw<Point[]>([]);
  /** How hard a pen was last pressed; 1 for what tells nothing of it. */
  let pressure = 1;
  /** Whether what is drawn is taken away: by the key that is held, or as the brush is set. */
  let takes = $state(false);
  const meeting = (): { meets?: Meeting } => (takes ? { meets: 'take' } : {});

  function fieldOf(place: Point): Point | null {
    const field = sheet.toField(place);
    return field && field.every((value) => Math.abs(value) <= FURTHEST) ? field : null;
  }
  const radius = $derived.by(() => {
    const { brush } = areasView(bench);
    const at: Point = sheet.pointer ?? [sheet.size.width / 2, sheet.size.height / 2];
    const [one, other] = [fieldOf(at), fieldOf([at[0] + 10, at[1]])];
    const perPixel = one && other ? Math.hypot(other[0] - one[0], other[1] - one[1]) / 10 : 0.003;
    return brush.size / 1000 / perPixel;
  });

  function besideLine(a: Point, b: Point): void {
    const upright = Math.abs(b[1] - a[1]) > Math.abs(b[0] - a[0]);
    addPart(bench, 'beside', { a, b, side: upright ? 'left' : 'above', feather: 4 }, meeting());
  }

  function endDrag(from: Point, to: Point): void {
    const { tool } = areasView(bench);
    if (Math.hypot(from[0] - to[0], from[1] - to[1]) < SHORTEST) {
      const mark = tool === 'beside' ? markAt(bench, sheet, from) : null;
      if (mark) besideLine(mark.a, mark.b);
      return;
    }
    const [a, b] = [fieldOf(from), fieldOf(to)];
    if (!a || !b) return;
    if (tool === 'gradient') addPart(bench, 'gradient', { a, b, twoSided: false, softness: 100 }, meeting());
    else if (tool === 'beside') besideLine(a, b);
    else if (tool === 'radial')
      addPart(
        bench,
        'radial',
        {
          centre: a,
          across: Math.max(0.01, Math.abs(b[0] - a[0])),
          down: Math.max(0.01, Math.abs(b[1] - a[1])),
          angle: 0,
          feather: 50,
          outside: false
        },
        meeting()
      );
  }

  /** With Shift held a gradient lies along the mark of Lines that it begins on, or is plumb or level; a radial is round. */
  function heldPlace(from: Point, to: Point): Point {
    const { tool } = areasView(bench);
    if (tool === 'radial') return heldRound(from, to);
    const mark = tool === 'gradient' ? markAt(bench, sheet, from) : null;
    const [a, b] = mark ? [sheet.toPlace(mark.a), sheet.toPlace(mark.b)] : [null, null];
    return a && b ? heldSquare(from, to, [a, b]) : heldStraight(from, to);
  }

  function endOutline(kind: 'polygon' | 'lasso', corners: readonly Point[]): void {
    const points = kind === 'lasso' ? thinnedOut(corners, FINE) : [...corners];
    const mine = areasView(bench);
    mine.corners = [];
    if (points.length < 3) return;
    if (points.length > MOST_CORNERS)
      mine.said = `This outline has more than ${MOST_CORNERS} corners: draw it in several.`;
    else addPart(bench, kind, { points, feather: 0 }, meeting());
  }

  /** A stroke as it is painted. */
  interface Painting {
    line: GrowingLine<readonly [number, number, number]>;
    stroke: Omit<Stroke, 'points'>;
    /** The part that it is added to, with the strokes that are in it; null before there is one. */
    part: { id: string; strokes: readonly Stroke[] } | null;
    /** Areas as they were; null: what is painted changes nothing that is seen, and is laid on when it is done. */
    before: AreasSettings | null;
  }
  let painting: Painting | null = null;

  function beginStroke(): void {
    const { size, ...how } = { ...$state.snapshot(areasView(bench).brush), erases: false };
    const chosen = chosenArea(bench);
    painting = {
      line: growingLine(FINE),
      stroke: { id: newId(), size: size / 1000, ...how },
      part: null,
      before: chosen && areasOf(bench).enabled && changesPicture(chosen.area) ? areasOf(bench) : null
    };
  }

  function paintTo(place: Point): void {
    const field = fieldOf(place);
    if (!painting || !field) return;
    const [x, y] = field.map((value) => Math.round(value * 1e5) / 1e5);
    painting.line.add([x, y, Math.round(pressure * 1e3) / 1e3]);
  }

  /** Lays on what has been painted; while it goes on, `moves`. */
  function layStroke({ line: grown, stroke, part }: Painting, moves: boolean): void {
    const points = grown.points().slice(0, MOST_POINTS).flat();
    if (points.length === 0) return;
    const all: Stroke = { ...stroke, points };
    if (part) return changePart(bench, part.id, { strokes: [...part.strokes, all] }, moves);
    const mine = areasView(bench);
    const { into, erases } = paintedInto();
    const laid = { ...all, erases };
    if (into && into.strokes.length >= MOST_STROKES)
      mine.said = `A painted part has ${MOST_STROKES} strokes at most: begin another part.`;
    else if (into) {
      mine.part = into.id;
      changePart(bench, into.id, { strokes: [...into.strokes, laid] }, moves);
    } else addPart(bench, 'brush', { strokes: [laid] }, { moves, ...meeting() });
    const there = partOf(bench, 'brush');
    if (!painting || !there || mine.said) return;
    painting.part = { id: there.id, strokes: into?.strokes ?? [] };
    painting.stroke = { ...stroke, erases };
  }

  /**
   * The painted part that a stroke goes into (null: a new one), and whether it erases within that. What is taken away is painted into a
   * part that takes away, but where the shape is no more than what was painted, of that.
   */
  function paintedInto(): { into: PartOf<'brush'> | null; erases: boolean } {
    const inHand = partOf(bench, 'brush');
    if (!takes) {
      const adds = inHand && (inHand.meets !== 'take' || areasView(bench).meets === 'take');
      return { into: adds ? inHand : null, erases: false };
    }
    const parts = chosenArea(bench)?.shape.parts ?? [];
    if (inHand?.meets === 'take') return { into: inHand, erases: false };
    if (inHand && parts.length === 1) return { into: inHand, erases: true };
    const last = parts.at(-1);
    return { into: last?.kind === 'brush' && last.meets === 'take' ? last : null, erases: false };
  }

  /** Takes back what was painted and not ended. */
  function dropStroke(): void {
    if (painting?.part && painting.before) putAreas(bench, painting.before);
    painting = null;
  }

  function pick(place: Point): void {
    const field = fieldOf(place);
    if (!field) return;
    const before = partOf(bench, 'colour');
    if (!before) addPart(bench, 'colour', { picks: [field], tolerance: 30, feather: 60 });
    else if (before.picks.length < MOST_PICKS)
      changePart(bench, before.id, { picks: [...before.picks, field] });
    else areasView(bench).said = `A range has ${MOST_PICKS} picked colours at most: add another range.`;
  }

  return {
    get cursor() {
      const { tool } = areasView(bench);
      return tool === 'brush' ? 'none' : tool === 'move' ? 'default' : 'crosshair';
    },
    magnified: null,
    get heedsAlt() {
      const { tool } = areasView(bench);
      return tool !== 'move' && tool !== 'colour';
    },
    get drag() {
      return drag;
    },
    get line() {
      return line;
    },
    get follows() {
      return line.length > 0 && Boolean(painting?.before);
    },
    get takes() {
      return takes;
    },
    get radius() {
      return radius;
    },
    down({ place, empty, draggable, event }) {
      const { tool, corners } = areasView(bench);
      if (!empty && draggable) return false;
      if (tool === 'move') return false;
      areasView(bench).said = '';
      takes = Boolean(event?.altKey) || (tool === 'brush' && areasView(bench).brush.erases);
      pressure = event?.pointerType === 'pen' ? event.pressure : 1;
      if (tool === 'colour') pick(place);
      else if (tool === 'polygon') {
        const first = corners[0] && sheet.toPlace(corners[0]);
        if (corners.length > 2 && first && Math.hypot(first[0] - place[0], first[1] - place[1]) < CLOSES)
          endOutline('polygon', corners);
        else {
          const field = fieldOf(place);
          if (field) areasView(bench).corners = [...corners, field];
        }
      } else if (tool === 'brush' || tool === 'lasso') {
        line = [place];
        if (tool === 'brush') {
          beginStroke();
          paintTo(place);
        }
      } else drag = { from: place, to: place };
      return true;
    },
    move(place, event) {
      if (drag) drag = { from: drag.from, to: event?.shiftKey ? heldPlace(drag.from, place) : place };
      else if (line.length > 0) {
        if (event?.pointerType === 'pen') pressure = event.pressure;
        line = [...line, place];
        paintTo(place);
        if (painting?.before) layStroke(painting, true);
      }
    },
    up() {
      const { tool } = areasView(bench);
      if (drag) endDrag(drag.from, drag.to);
      else if (line.length > 0 && tool === 'lasso') {
        const fields = line.flatMap((place) => fieldOf(place) ?? []);
        const corners = Array.from({ length: fields.length / 2 }, (_, i): Point => [
          fields[2 * i],
          fields[2 * i + 1]
        ]);
        if (corners.length > 3) endOutline('lasso', corners);
      } else if (painting) layStroke(painting, false);
      drag = null;
      line = [];
      painting = null;
    },
    drop() {
      dropStroke();
      drag = null;
      line = [];
      areasView(bench).corners = [];
    },
    close: () => endOutline('polygon', areasView(bench).corners)
  };
}

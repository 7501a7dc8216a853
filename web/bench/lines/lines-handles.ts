/** Ends of marks and lengths, and corners of the known rectangle, for the keyboard. */
import type { Point } from '$core/math/frame-geometry.ts';
import type { Mark } from '$core/steps/lines/mark.ts';
import type { Bench } from '../state/bench-state.svelte.ts';
import type { SheetHandle } from '../sheet/sheet-handle.ts';
import type { SheetState } from '../sheet/sheet-state.svelte.ts';
import { changeMarks, takenInOrOut } from './true-up.ts';
import { linesView } from './lines-view.svelte.ts';

const KINDS = { plumb: 'Plumb', level: 'Level', straight: 'Straight', none: 'Unused' } as const;

/** An end in words, by where it lies against the other one. */
function endName(at: Point, other: Point): string {
  const [dx, dy] = [at[0] - other[0], at[1] - other[1]];
  if (Math.abs(dy) > Math.abs(dx)) return dy < 0 ? 'upper end' : 'lower end';
  return dx < 0 ? 'left end' : 'right end';
}

export function linesHandles(bench: Bench, sheet: SheetState): SheetHandle[] {
  const { lines } = bench.recipe;
  const lit = (id: string) => (inside: boolean) => void (bench.view.lit = inside ? id : null);
  /** Where a field position is after a move by pixels of the screen; as it was where that leaves the picture. */
  const moved = (field: Point, dx: number, dy: number): Point => {
    const place = sheet.toPlace(field);
    const to = place && sheet.toField([place[0] + dx, place[1] + dy]);
    return to && to.every((value) => Math.abs(value) <= 1.5) ? to : field;
  };
  const ends = (
    of: { id: string; a: Point; b: Point },
    name: string,
    change: (end: 'a' | 'b', dx: number, dy: number) => void,
    more: Partial<SheetHandle>
  ): SheetHandle[] => {
    const [a, b] = [sheet.toPlace(of.a), sheet.toPlace(of.b)];
    if (!a || !b) return [];
    const focused = lit(of.id);
    return (['a', 'b'] as const).map((end) => ({
      id: `${of.id} ${end}`,
      label: `${name}, ${end === 'a' ? endName(a, b) : endName(b, a)}`,
      at: end === 'a' ? a : b,
      nudge: (dx, dy) => change(end, dx, dy),
      focused,
      ...more
    }));
  };
  if (linesView(bench).page !== 'lengths') {
    const counts = new Map<string, number>();
    return lines.marks.flatMap((mark) => {
      const number = (counts.get(mark.kind) ?? 0) + 1;
      counts.set(mark.kind, number);
      const name = `${KINDS[mark.kind]} line ${number}${mark.out ? ', taken out' : ''}`;
      const change = (end: 'a' | 'b', dx: number, dy: number): void =>
        changeMarks(bench, [mark.id], (of: Mark) => ({ ...of, [end]: moved(of[end], dx, dy) }));
      return ends(mark, name, change, {
        press: () => changeMarks(bench, [mark.id], (of) => takenInOrOut(bench, of)),
        remove: () => changeMarks(bench, [mark.id], null)
      });
    });
  }
  const measures = lines.measures.flatMap((measure, i) =>
    ends(
      measure,
      `Length ${i + 1}`,
      (end, dx, dy) =>
        bench.change('lines', {
          measures: lines.measures.map((of) =>
            of.id === measure.id ? { ...of, [end]: moved(of[end], dx, dy) } : of
          )
        }),
      {
        remove: () =>
          bench.change('lines', { measures: lines.measures.filter(({ id }) => id !== measure.id) })
      }
    )
  );
  const { rectangle } = lines;
  const corners = (rectangle?.corners ?? []).flatMap((corner, i): SheetHandle[] => {
    const at = sheet.toPlace(corner);
    if (!at) return [];
    const nudge = (dx: number, dy: number): void =>
      bench.change('lines', {
        rectangle: {
          ...rectangle!,
          corners: rectangle!.corners.map((of, n) => (n === i ? moved(of, dx, dy) : of)) as never
        }
      });
    return [{ id: `corner ${i}`, label: `Known rectangle, corner ${i + 1}`, at, nudge }];
  });
  return [...measures, ...corners];
}

/** Moves ends of the chosen lines by pixels of the screen, for hands on the keyboard. */
import type { Point } from '$core/math/frame-geometry.ts';
import type { Bench } from '../state/bench-state.svelte.ts';
import type { SheetState } from '../sheet/sheet-state.svelte.ts';
import { changeMarks } from './true-up.ts';
import { linesView } from './lines-view.svelte.ts';

export function moveChosen(bench: Bench, sheet: SheetState, end: 'a' | 'b', [dx, dy]: Point): void {
  changeMarks(bench, linesView(bench).chosen, (mark) => {
    const place = sheet.toPlace(mark[end]);
    const moved = place && sheet.toField([place[0] + dx, place[1] + dy]);
    return moved ? { ...mark, [end]: moved } : mark;
  });
}

/** Where a line is begun that is drawn without a pointer: to one side and to the other by turns. */
const SIDES = [0.2, 0.8];

/** Draws a line of a third of the sheet, to be moved by its ends from there. */
export function drawLine(bench: Bench, sheet: SheetState, kind: 'plumb' | 'level'): void {
  const { width, height } = sheet.size;
  const { marks } = bench.recipe.lines;
  const share = SIDES[marks.filter((mark) => mark.kind === kind).length % SIDES.length];
  const [x, y] = kind === 'plumb' ? [width * share, height / 2] : [width / 2, height * share];
  const [dx, dy] = kind === 'plumb' ? [0, height / 6] : [width / 6, 0];
  const [a, b] = [sheet.toField([x - dx, y - dy]), sheet.toField([x + dx, y + dy])];
  if (!a || !b) return;
  const id = crypto.randomUUID().slice(0, 8);
  linesView(bench).chosen = [id];
  bench.change('lines', { marks: [...marks, { id, kind, a, b }] });
}

/** Chooses the line after the one that is chosen. */
export function chooseNext(bench: Bench): void {
  const { marks } = bench.recipe.lines;
  const index = marks.findIndex(({ id }) => linesView(bench).chosen.includes(id));
  linesView(bench).chosen = [marks[(index + 1) % marks.length].id];
}

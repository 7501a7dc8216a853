import type { Command } from '../controls/commands.ts';
import { stepParts } from '../parts/step-parts.ts';
import { WAYS } from '../controls/ways.ts';
import LinesDeck from './LinesDeck.svelte';
import LinesOverlay from './LinesOverlay.svelte';
import { findLines, trueUpItself } from './find-lines.ts';
import { linesHandles } from './lines-handles.ts';
import { createLinesTool } from './lines-tool.svelte.ts';
import { chooseNext, drawLine, moveChosen } from './move-marks.ts';
import { changeMarks, nudgeAngle, trueUpFromMarks } from './true-up.ts';
import { linesView } from './lines-view.svelte.ts';

/** Degrees of one press of a key. */
const NUDGE = 0.05;
const TURNS = [
  ['roll', 1, 'Roll to the right', ['ArrowRight']],
  ['roll', -1, 'Roll to the left', ['ArrowLeft']],
  ['pitch', 1, 'Pitch up', ['ArrowUp']],
  ['pitch', -1, 'Pitch down', ['ArrowDown']],
  ['yaw', 1, 'Yaw to the right', ['.']],
  ['yaw', -1, 'Yaw to the left', [',']]
] as const;
export const linesParts = stepParts({
  deck: LinesDeck,
  overlay: LinesOverlay,
  handles: linesHandles,
  createTool: createLinesTool,
  commands(bench, sheet, tool) {
    const own = { group: 'Lines', step: 'lines' } as const;
    const off = (): string | null => (bench.recipe.lines.enabled ? null : 'The Lines step is switched off.');
    const marked = (): string | null =>
      bench.recipe.lines.marks.length > 0 ? null : 'There are no lines yet.';
    const chosen = (): string | null => (linesView(bench).chosen.length > 0 ? null : 'No line is chosen.');
    const all: Command[] = [
      {
        ...own,
        id: 'true-up-itself',
        label: 'True up by itself',
        keys: [],
        step: undefined,
        idle: off,
        run: () => void trueUpItself(bench, sheet)
      },
      {
        ...own,
        id: 'true-up',
        label: 'True up from the marks',
        keys: ['t'],
        step: undefined,
        idle: () => off() ?? marked(),
        run: () => trueUpFromMarks(bench)
      },
      {
        ...own,
        id: 'find-lines',
        label: 'Find lines without truing up',
        keys: [],
        step: undefined,
        run: () => void findLines(bench, sheet)
      },
      {
        ...own,
        id: 'draw-plumb',
        label: 'Draw a plumb line, to be moved by its ends',
        keys: ['p'],
        run: () => drawLine(bench, sheet, 'plumb')
      },
      {
        ...own,
        id: 'draw-level',
        label: 'Draw a level line, to be moved by its ends',
        keys: ['l'],
        run: () => drawLine(bench, sheet, 'level')
      },
      {
        ...own,
        id: 'choose-next',
        label: 'Choose the next line',
        keys: ['n'],
        idle: marked,
        run: () => chooseNext(bench)
      },
      {
        ...own,
        id: 'remove-marks',
        label: 'Remove the chosen lines',
        keys: ['Delete', 'Backspace'],
        idle: chosen,
        run: () => changeMarks(bench, linesView(bench).chosen, null)
      },
      {
        ...own,
        id: 'choose-none',
        label: 'Choose no line, drop what is being drawn',
        keys: ['Escape'],
        run() {
          tool.drop();
          linesView(bench).chosen = [];
        }
      }
    ];
    const turns = TURNS.map(([name, direction, label, keys]): Command => ({
      ...own,
      id: `${name} ${direction}`,
      label,
      keys,
      tenfold: true,
      idle: off,
      run: (by) => nudgeAngle(bench, name, direction * NUDGE * by)
    }));
    const moves = (['a', 'b'] as const).flatMap((end) =>
      WAYS.map(([dx, dy, way, key]): Command => ({
        ...own,
        id: `move ${end} ${way}`,
        label: `Move the ${end === 'a' ? 'first' : 'second'} end of the chosen lines ${way}`,
        keys: [end === 'a' ? `Alt+${key}` : `Control+Alt+${key}`],
        tenfold: true,
        idle: chosen,
        run: (by) => moveChosen(bench, sheet, end, [dx * by, dy * by])
      }))
    );
    return [...all, ...turns, ...moves];
  }
});

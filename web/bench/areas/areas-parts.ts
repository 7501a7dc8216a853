import type { Command } from '../controls/commands.ts';
import { stepParts } from '../parts/step-parts.ts';
import AreasDeck from './AreasDeck.svelte';
import AreasOverlay from './AreasOverlay.svelte';
import { areasHandles } from './areas-handles.ts';
import { createAreasTool } from './areas-tool.svelte.ts';
import { areasView } from './areas-view.svelte.ts';
import { addArea, addPart, areasOf, changeArea, chosenArea, removeArea, removePart } from './edit-areas.ts';

/** By what a press of a key makes the brush larger. */
const LARGER = 1.15;

export const areasParts = stepParts({
  deck: AreasDeck,
  overlay: AreasOverlay,
  handles: areasHandles,
  createTool: createAreasTool,
  commands(bench, _, tool) {
    const own = { group: 'Areas', step: 'areas' } as const;
    const mine = areasView(bench);
    const off = (): string | null => (bench.recipe.areas.enabled ? null : 'The Areas step is switched off.');
    const chosen = (): string | null => (chosenArea(bench) ? null : 'No area is chosen.');
    const brush = (): string | null => (mine.tool === 'brush' ? null : 'The brush is not in hand.');
    const sized = (factor: number): void =>
      void (mine.brush.size = Math.min(400, Math.max(2, Math.round(mine.brush.size * factor))));
    const commands: Command[] = [
      { ...own, id: 'area-new', label: 'New area', keys: ['n'], idle: off, run: () => addArea(bench) },
      {
        ...own,
        id: 'area-sky',
        label: 'Find the sky',
        keys: [],
        idle: off,
        run: () => addPart(bench, 'found', { what: 'sky' })
      },
      {
        ...own,
        id: 'area-windows',
        label: 'Find the windows',
        keys: [],
        idle: off,
        run: () => addPart(bench, 'found', { what: 'windows' })
      },
      {
        ...own,
        id: 'area-next',
        label: 'Choose the next area',
        keys: ['.'],
        idle: () => (areasOf(bench).list.length > 0 ? null : 'There are no areas yet.'),
        run() {
          const { list } = areasOf(bench);
          mine.area = list[((chosenArea(bench)?.index ?? -1) + 1) % list.length].id;
          mine.part = null;
        }
      },
      {
        ...own,
        id: 'area-off',
        label: 'The chosen area off, and on again',
        keys: ['Shift+z'],
        idle: chosen,
        run() {
          const { area } = chosenArea(bench)!;
          changeArea(bench, area.id, { enabled: !area.enabled });
        }
      },
      {
        ...own,
        id: 'area-shown',
        label: 'Show the mask as hatching, or not',
        keys: ['e'],
        run() {
          if (mine.judging) mine.judging = false;
          else mine.shown = mine.shown === 'none' ? 'hatching' : 'none';
        }
      },
      {
        ...own,
        id: 'area-close',
        label: 'Close the polygon that is being drawn',
        keys: ['Enter'],
        idle: () => (mine.corners.length > 2 ? null : 'No polygon with three corners is being drawn.'),
        run: tool.close
      },
      {
        ...own,
        id: 'area-remove',
        label: 'Remove the part in hand, or the chosen area',
        keys: ['Delete', 'Backspace'],
        idle: chosen,
        run() {
          if (mine.part) removePart(bench, mine.part);
          else if (mine.area) removeArea(bench, mine.area);
        }
      },
      {
        ...own,
        id: 'area-none',
        label: 'Drop what is being drawn; then choose no part, no area',
        keys: ['Escape'],
        run() {
          const drawing = tool.drag !== null || tool.line.length > 0 || mine.corners.length > 0;
          tool.drop();
          if (drawing) return;
          if (mine.part) mine.part = null;
          else mine.area = null;
        }
      },
      {
        ...own,
        id: 'brush-larger',
        label: 'Larger brush',
        keys: [']'],
        idle: brush,
        run: () => sized(LARGER)
      },
      {
        ...own,
        id: 'brush-smaller',
        label: 'Smaller brush',
        keys: ['['],
        idle: brush,
        run: () => sized(1 / LARGER)
      }
    ];
    return commands;
  }
});

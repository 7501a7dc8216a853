import type { Command } from '../controls/commands.ts';
import { stepParts } from '../parts/step-parts.ts';
import MendDeck from './MendDeck.svelte';
import MendOverlay from './MendOverlay.svelte';
import { changePatch, chosenPatch, findDust, mendOf, removePatch } from './edit-mend.svelte.ts';
import { mendHandles } from './mend-handles.ts';
import { createMendTool } from './mend-tool.svelte.ts';
import { mendView } from './mend-view.svelte.ts';

/** By what a press of a key makes a place larger. */
const LARGER = 1.15;

export const mendParts = stepParts({
  deck: MendDeck,
  overlay: MendOverlay,
  handles: mendHandles,
  createTool: createMendTool,
  commands(bench, sheet, tool) {
    const own = { group: 'Mend', step: 'mend' } as const;
    const mine = mendView(bench);
    const off = (): string | null => (bench.recipe.mend.enabled ? null : 'The Mend step is switched off.');
    function sized(factor: number): void {
      const chosen = chosenPatch(bench);
      const size = Math.min(150, Math.max(1, Math.round((chosen ?? mine.brush).size * factor * 10) / 10));
      if (chosen) changePatch(bench, chosen.id, { size });
      else mine.brush.size = size;
    }
    const commands: Command[] = [
      {
        ...own,
        id: 'mend-dust',
        label: 'Find dust',
        keys: ['n'],
        idle: off,
        run: () => void findDust(bench, sheet)
      },
      {
        ...own,
        id: 'mend-plain',
        label: 'Show dust plainly, or not',
        keys: ['e'],
        run: () => (mine.plain = !mine.plain)
      },
      {
        ...own,
        id: 'mend-next',
        label: 'Choose the next mended place',
        keys: ['.'],
        idle: () => (mendOf(bench).patches.length > 0 ? null : 'Nothing is mended yet.'),
        run() {
          const { patches } = mendOf(bench);
          const at = patches.findIndex(({ id }) => id === mine.patch);
          mine.patch = patches[(at + 1) % patches.length].id;
        }
      },
      {
        ...own,
        id: 'mend-remove',
        label: 'Remove the place in hand',
        keys: ['Delete', 'Backspace'],
        idle: () => (chosenPatch(bench) ? null : 'No place is chosen.'),
        run: () => mine.patch && removePatch(bench, mine.patch)
      },
      {
        ...own,
        id: 'mend-none',
        label: 'Drop what is being drawn; then choose no place',
        keys: ['Escape'],
        run() {
          if (tool.line.length > 0) tool.drop();
          else mine.patch = null;
        }
      },
      { ...own, id: 'mend-larger', label: 'Larger place', keys: [']'], run: () => sized(LARGER) },
      { ...own, id: 'mend-smaller', label: 'Smaller place', keys: ['['], run: () => sized(1 / LARGER) }
    ];
    return commands;
  }
});

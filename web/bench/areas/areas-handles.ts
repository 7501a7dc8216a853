/** Handles of the chosen area's parts, for the keyboard. */
import type { Bench } from '../state/bench-state.svelte.ts';
import type { SheetHandle } from '../sheet/sheet-handle.ts';
import type { SheetState } from '../sheet/sheet-state.svelte.ts';
import { areasView } from './areas-view.svelte.ts';
import { changePart, chosenArea, removePart } from './edit-areas.ts';
import { handlesOf } from './part-handles.ts';

export function areasHandles(bench: Bench, sheet: SheetState): SheetHandle[] {
  const parts = chosenArea(bench)?.shape.parts ?? [];
  return parts.flatMap((part, i) =>
    handlesOf(part, areasView(bench).tool === 'move').flatMap((handle, n): SheetHandle[] => {
      const at = sheet.toPlace(handle.at);
      if (!at) return [];
      return [
        {
          id: `${part.id} ${n}`,
          label: `Part ${i + 1}, ${part.kind}: ${handle.name}`,
          at,
          nudge(dx, dy) {
            const to = sheet.toField([at[0] + dx, at[1] + dy]);
            if (to && to.every((value) => Math.abs(value) <= 1.5))
              changePart(bench, part.id, handle.moved(to));
          },
          press: () => (areasView(bench).part = part.id),
          remove: () => removePart(bench, part.id)
        }
      ];
    })
  );
}

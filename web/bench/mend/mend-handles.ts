/** Handles of the chosen place and of its source, for the keyboard. */
import type { SheetHandle } from '../sheet/sheet-handle.ts';
import type { SheetState } from '../sheet/sheet-state.svelte.ts';
import type { Bench } from '../state/bench-state.svelte.ts';
import { changePatch, chosenPatch, removePatch } from './edit-mend.svelte.ts';
import { handlesOf } from './patch-handles.ts';

export function mendHandles(bench: Bench, sheet: SheetState): SheetHandle[] {
  const chosen = chosenPatch(bench);
  if (!chosen) return [];
  return handlesOf(chosen).flatMap((handle): SheetHandle[] => {
    const at = sheet.toPlace(handle.at);
    if (!at) return [];
    return [
      {
        id: `${chosen.id} ${handle.name}`,
        label: `Mended place: ${handle.name}`,
        at,
        nudge(dx, dy) {
          const to = sheet.toField([at[0] + dx, at[1] + dy]);
          if (to) changePatch(bench, chosen.id, handle.moved(to));
        },
        remove: () => removePatch(bench, chosen.id)
      }
    ];
  });
}

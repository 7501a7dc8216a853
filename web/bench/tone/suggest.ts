/** Tone by itself: all of it, or one control, as ordinary settings. */
import { type SUGGESTED, TOGETHER } from '$core/tone/suggest-tone.ts';
import type { Bench } from '../bench-state.svelte.ts';
import type { SheetState } from '../sheet/sheet-state.svelte.ts';

export type Suggested = (typeof SUGGESTED)[number];
export type Suggest = (names?: readonly Suggested[]) => void;

export const suggestFor =
  (bench: Bench, sheet: SheetState): Suggest =>
  (names = TOGETHER) => {
    // What is set stays the ground that a single control is suggested on.
    const { tone } = bench.recipe;
    void sheet.preview?.ask<'suggest'>({ kind: 'suggest', tone }).then((found) => {
      const settings = Object.fromEntries(names.map((name) => [name, found.tone[name]]));
      const before = bench.recipe.tone;
      const changed = names.filter((name) => before[name] !== found.tone[name]);
      bench.view.toneSaid =
        changed.length === 0
          ? 'It stands as the picture asks for already.'
          : `Set by itself: ${changed.length}.`;
      bench.change('tone', { ...settings, enabled: true });
    });
  };

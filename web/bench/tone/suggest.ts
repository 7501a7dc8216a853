/** Tone by itself: all of it, or one control, as ordinary settings. */
import { type SUGGESTED, TOGETHER } from '$core/steps/tone/suggest-tone.ts';
import { markedByItself } from '$core/settings/set-by-itself.ts';
import { toneSchema } from '$core/steps/tone/step.ts';
import type { Bench } from '../state/bench-state.svelte.ts';
import type { SheetState } from '../sheet/sheet-state.svelte.ts';
import { toneView } from './tone-view.svelte.ts';

export type Suggested = (typeof SUGGESTED)[number];
export type Suggest = (names?: readonly Suggested[]) => void;

export const suggestFor =
  (bench: Bench, sheet: SheetState): Suggest =>
  (names = TOGETHER) => {
    void sheet.preview?.ask<'tone'>({ kind: 'tone', tone: bench.recipe.tone }).then((found) => {
      const settings = Object.fromEntries(names.map((name) => [name, found[name]]));
      const before = bench.recipe.tone;
      const changed = names.filter((name) => before[name] !== found[name]);
      toneView(bench).said =
        changed.length === 0
          ? 'It stands as the picture asks for already.'
          : `Set by itself: ${changed.length}.`;
      const next = { ...before, ...settings, enabled: true };
      bench.change('tone', names === TOGETHER ? markedByItself(toneSchema, next) : next);
    });
  };

/** Tone by itself: all of it, or one control, as ordinary settings; all of it by an amount. */
import { type SUGGESTED, type Suggestion, TOGETHER } from '$core/steps/tone/suggest-tone.ts';
import { markedByItself } from '$core/settings/set-by-itself.ts';
import { type ToneSettings, toneSchema } from '$core/steps/tone/step.ts';
import type { Bench } from '../state/bench-state.svelte.ts';
import type { SheetState } from '../sheet/sheet-state.svelte.ts';
import { toneView } from './tone-view.svelte.ts';

export type Suggested = (typeof SUGGESTED)[number];
export type Suggest = (names?: readonly Suggested[]) => void;

export const MOST_AMOUNT = 150;

/** What all by itself comes to by an amount, in percent: none of it as before, and more than all a little further. */
export function byAmount(before: ToneSettings, found: Suggestion, amount: number): Partial<ToneSettings> {
  return Object.fromEntries(
    TOGETHER.map((name) => {
      const { minimum, maximum, step } = toneSchema.properties[name];
      const wanted = before[name] + ((found[name] - before[name]) * amount) / 100;
      const bounded = Math.min(maximum, Math.max(minimum, wanted));
      return [name, Number((Math.round(bounded / step) * step).toFixed(2))];
    })
  );
}

/** Takes another amount of what was found. */
export function takeAmount(bench: Bench, amount: number, moving: boolean): void {
  const mine = toneView(bench);
  if (!mine.itself) return;
  mine.itself = { ...mine.itself, amount };
  const next = { ...bench.recipe.tone, ...byAmount(mine.itself.before, mine.itself.found, amount) };
  bench.change('tone', markedByItself(toneSchema, next), moving);
}

export const suggestFor =
  (bench: Bench, sheet: SheetState): Suggest =>
  (names = TOGETHER) => {
    const asked = {
      kind: 'tone' as const,
      tone: { ...bench.inputs.recipe.tone, enabled: true },
      asked: names
    };
    void sheet.preview?.ask<'tone'>(asked).then((found) => {
      const settings = Object.fromEntries(names.map((name) => [name, found[name]]));
      const before = bench.recipe.tone;
      const changed = names.filter((name) => before[name] !== found[name]);
      const mine = toneView(bench);
      mine.said =
        changed.length === 0
          ? 'It stands as the picture asks for already.'
          : `Set by itself: ${changed.length}.`;
      const next = { ...before, ...settings, enabled: true };
      if (names === TOGETHER) mine.itself = { before, found, amount: 100 };
      bench.change('tone', names === TOGETHER ? markedByItself(toneSchema, next) : next);
    });
  };

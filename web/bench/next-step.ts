/** A quiet line that says what is usually done next; nothing when the frame is ready to go out. */
import { stepState } from '$core/recipe/step-state.ts';
import type { StepName } from '$core/recipe/steps.ts';
import type { Recipe } from '$core/recipe/recipe.ts';

/** Degrees by which lines may miss before a frame is not called true. */
const LEANS = 0.5;

/** `plumb`, `level`: degrees as read, null where nothing is. `step` is the one in hand: beyond the crop the line goes on from there. */
export function nextStep(
  recipe: Recipe,
  facts: { profileFound: boolean; noLines: boolean; plumb: number | null; level: number | null },
  step: StepName
): string {
  const state = (of: StepName): string => stepState(recipe, of, facts);
  const toned = state('tone') !== 'untouched';
  const coloured = state('colour') !== 'untouched';
  if (step === 'tone' && !toned) return 'Light is as shot. All by itself sets it.';
  if (step === 'tone' && !coloured) return 'Light is set. Next: Colour (5).';
  if (step === 'colour' && !coloured) return 'White is as shot. By itself sets it, or Pick a grey.';
  const lens = {
    automatic: 'The lens is corrected by its profile.',
    untouched: 'No profile is known for this lens: Bow straightens it by its edges.',
    'by hand': 'The lens is corrected.',
    off: 'The lens is left as it is.'
  }[state('lens')];
  if (state('lines') === 'untouched')
    return facts.noLines
      ? `${lens} No lines were found by themselves: draw two in Lines (2).`
      : `${lens} Next: Lines (2), By itself.`;
  if (state('crop') === 'untouched') {
    const [plumb, level] = [facts.plumb ?? 0, facts.level ?? 0].map(Math.abs);
    if (plumb > LEANS) return `Verticals still lean by ${plumb.toFixed(1)}°: Lines (2).`;
    if (level > LEANS) return `Level lines still slope by ${level.toFixed(1)}°: Lines (2).`;
    const told = facts.plumb === null && facts.level === null;
    return `${told ? 'Lines are set.' : 'It is true.'} Next: Crop (3), then Tone (4).`;
  }
  return '';
}

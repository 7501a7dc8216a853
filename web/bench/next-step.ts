/** A quiet line that says what is usually done next; nothing when the frame is ready to go out. */
import { stepState } from '$core/recipe/step-state.ts';
import type { StepName } from '$core/recipe/steps.ts';
import type { Recipe } from '$core/recipe/recipe.ts';

/** `step` is the one in hand: beyond the crop the line goes on from there. */
export function nextStep(
  recipe: Recipe,
  facts: { profileFound: boolean; noLines: boolean },
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
  if (state('crop') === 'untouched') return 'It is true. Next: Crop (3), then Tone (4).';
  return '';
}

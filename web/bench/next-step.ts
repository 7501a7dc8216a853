/** A quiet line that says what is usually done next; nothing when the frame is ready to go out. */
import { stepState } from '$core/recipe/step-state.ts';
import type { Recipe } from '$core/recipe/recipe.ts';

export function nextStep(recipe: Recipe, facts: { profileFound: boolean; noLines: boolean }): string {
  const state = (step: 'lens' | 'lines' | 'crop'): string => stepState(recipe, step, facts);
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
  if (state('crop') === 'untouched') return 'It is true. Next: Crop (3), then Export.';
  return '';
}

import { describe, expect, it } from 'vitest';
import { completeRecipe } from '$core/recipe/recipe.ts';
import { nextStep } from './next-step.ts';

const known = { profileFound: true, noLines: false };

describe('the line that says what is next', () => {
  it('leads from the glass to the lines, the crop, and out', () => {
    expect(nextStep(completeRecipe({}), known)).toBe(
      'The lens is corrected by its profile. Next: Lines (2), By itself.'
    );
    expect(nextStep(completeRecipe({}), { ...known, profileFound: false })).toContain('Bow straightens it');
    expect(nextStep(completeRecipe({}), { ...known, noLines: true })).toContain('draw two in Lines');
    const trued = completeRecipe({ lines: { pitch: 4 } });
    expect(nextStep(trued, known)).toBe('It is true. Next: Crop (3), then Export.');
    expect(nextStep(completeRecipe({ lines: { pitch: 4 }, crop: { ratio: '4:3' } }), known)).toBe('');
  });
});

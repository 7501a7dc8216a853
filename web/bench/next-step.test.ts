import { describe, expect, it } from 'vitest';
import { completeRecipe } from '$core/recipe/recipe.ts';
import { nextStep } from './next-step.ts';

const known = { profileFound: true, noLines: false, plumb: 0.02, level: 0.1 };

describe('the line that says what is next', () => {
  it('leads from the glass to the lines, the crop, and out', () => {
    expect(nextStep(completeRecipe({}), known, 'lens')).toBe(
      'The lens is corrected by its profile. Next: Lines (2), By itself.'
    );
    expect(nextStep(completeRecipe({}), { ...known, profileFound: false }, 'lens')).toContain(
      'Bow straightens it'
    );
    expect(nextStep(completeRecipe({}), { ...known, noLines: true }, 'lens')).toContain('draw two in Lines');
    const trued = completeRecipe({ lines: { pitch: 4 } });
    expect(nextStep(trued, known, 'lens')).toBe('It is true. Next: Crop (3), then Tone (4).');
    expect(nextStep(completeRecipe({ lines: { pitch: 4 }, crop: { ratio: '4:3' } }), known, 'lens')).toBe('');
  });

  it('calls nothing true that its readings do not', () => {
    const trued = completeRecipe({ lines: { pitch: 4 } });
    expect(nextStep(trued, { ...known, plumb: 3.91 }, 'lines')).toBe(
      'Verticals still lean by 3.9°: Lines (2).'
    );
    expect(nextStep(trued, { ...known, level: -1.2 }, 'lines')).toBe(
      'Level lines still slope by 1.2°: Lines (2).'
    );
    expect(nextStep(trued, { ...known, plumb: null, level: null }, 'lines')).toContain('Lines are set.');
  });

  it('goes on from the step in hand', () => {
    const bare = completeRecipe({});
    expect(nextStep(bare, known, 'tone')).toContain('All by itself');
    expect(nextStep(completeRecipe({ tone: { exposure: 1 } }), known, 'tone')).toContain('Next: Colour (5)');
    expect(nextStep(bare, known, 'colour')).toContain('White is as shot');
    expect(nextStep(completeRecipe({ colour: { kelvin: 5000 } }), known, 'colour')).toContain('Next: Lines');
  });
});

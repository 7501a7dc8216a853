import { describe, expect, it } from 'vitest';
import { stepState } from '../recipe/step-state.ts';
import { type PartialRecipe, completeRecipe } from '../recipe/recipe.ts';
import { toneSchema } from '../steps/tone/step.ts';
import { colourSchema } from '../steps/colour/step.ts';
import { markedByItself } from './set-by-itself.ts';

const facts = { profileFound: false };
const stateOf = (recipe: PartialRecipe, step: 'tone' | 'colour'): string =>
  stepState(completeRecipe(recipe), step, facts);

describe('settings that were set by itself', () => {
  it('are automatic until one is changed by hand, and again when it is set back', () => {
    const tone = markedByItself(toneSchema, { ...completeRecipe({}).tone, exposure: 0.4, shadows: 20 });
    expect(stateOf({ tone }, 'tone')).toBe('automatic');
    expect(stateOf({ tone: { ...tone, exposure: 0.5 } }, 'tone')).toBe('by hand');
    expect(stateOf({ tone: { ...tone, contrast: 5 } }, 'tone')).toBe('by hand');
    expect(stateOf({ tone: { ...tone, shadows: 20 } }, 'tone')).toBe('automatic');
    expect(stateOf({ tone: { ...tone, enabled: false } }, 'tone')).toBe('off');
    const colour = markedByItself(colourSchema, { ...completeRecipe({}).colour, kelvin: 4800 });
    expect(stateOf({ colour }, 'colour')).toBe('automatic');
    expect(stateOf({ colour: { ...colour, saturation: 5 } }, 'colour')).toBe('by hand');
  });

  it('are untouched once all of them are back, whatever was set before', () => {
    const tone = markedByItself(toneSchema, { ...completeRecipe({}).tone, exposure: 0.4 });
    expect(stateOf({ tone: { ...tone, exposure: 0 } }, 'tone')).toBe('untouched');
    expect(stateOf({}, 'tone')).toBe('untouched');
    expect(stateOf({ tone: { exposure: 0.4 } }, 'tone')).toBe('by hand');
  });
});

import { describe, expect, it } from 'vitest';
import {
  houseStepsOf,
  offeredSteps,
  unknownSteps,
  withHouseChanges,
  withHouseSettings
} from './house-settings.ts';
import { completeRecipe } from './recipe.ts';

const made = completeRecipe({
  lens: { bow: 2, solvedFocal: 1.1 },
  lines: { roll: 3 },
  tone: { exposure: 0.8, contrast: 30, curve: [{ x: 0.2, y: 0.3 }] },
  colour: { mono: true }
} as never);

describe('house settings', () => {
  it('offer the steps that change anything and are of no one picture', () => {
    expect(offeredSteps(made)).toEqual(['lens', 'tone', 'colour']);
    expect(offeredSteps(completeRecipe())).toEqual([]);
  });

  it('are laid over another frame whole, and leave its other steps, and what is its own', () => {
    const steps = houseStepsOf(made, ['tone', 'lens']);
    expect(Object.keys(steps)).toEqual(['lens', 'tone']);
    const other = { tone: { exposure: -1, shadows: 40 }, crop: { ratio: '4:5' }, lens: { wave: 1 } } as never;
    const laid = completeRecipe(withHouseSettings(other, steps));
    expect(laid.tone).toEqual(made.tone);
    expect(laid.crop.ratio).toBe('4:5');
    expect(laid.lens.bow).toBe(2);
    expect(laid.lens.wave).toBe(0);
    expect(laid.colour.mono).toBe(false);
    // What does not belong to a set stays even where it belongs to a step that does.
    expect(
      completeRecipe(
        withHouseSettings(
          {
            lens: {
              curves: [
                {
                  id: 'own',
                  points: [
                    [0, 0],
                    [1, 0]
                  ]
                }
              ]
            }
          } as never,
          steps
        )
      ).lens.curves
    ).toHaveLength(1);
  });

  it('go part of the way from what is there, and nowhere at nothing', () => {
    const steps = houseStepsOf(made, ['tone']);
    const other = { tone: { exposure: -0.2, shadows: 40 } } as never;
    const half = completeRecipe(withHouseSettings(other, steps, 50)).tone;
    expect([half.exposure, half.shadows, half.contrast]).toEqual([0.3, 20, 15]);
    expect(half.curve).toEqual(made.tone.curve);
    expect(withHouseSettings(other, steps, 0)).toBe(other);
  });

  it('lay only what they change over what was set by itself, where that is asked', () => {
    const itself = { tone: { exposure: 0.4, recovery: 60, shadows: 15 } };
    const laid = completeRecipe(
      withHouseChanges(itself, { tone: { contrast: 20, shadows: 0 }, finish: {} })
    ).tone;
    expect([laid.exposure, laid.recovery, laid.shadows, laid.contrast]).toEqual([0.4, 60, 15, 20]);
  });

  it('tell steps that there are none of', () => {
    expect(unknownSteps({ tone: {}, glaze: {} })).toContain('“glaze”');
    expect(unknownSteps({ tone: {} })).toBeNull();
  });
});

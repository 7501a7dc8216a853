import { describe, expect, it } from 'vitest';
import { inputsFor, paint, rendered } from '../render/painted-frame.ts';
import { movable, withShape } from './give-shape.ts';
import { type PartialRecipe, type Recipe, completeRecipe } from './recipe.ts';
import { SWITCHES } from './switches.ts';

const SET: PartialRecipe = {
  tone: { exposure: 0.7, contrast: 30, recovery: 40, curve: [{ x: 0.5, y: 0.6 }] },
  colour: { saturation: -40, kelvin: null, hues: [{ at: 30, hue: 5, chroma: 0, light: 0 }] }
};

/** The recipe with the shape of its area all of the frame. */
const everywhere = (recipe: Recipe): Recipe =>
  ({
    ...recipe,
    areas: {
      ...recipe.areas,
      shapes: recipe.areas.shapes.map((shape) => ({ ...shape, invert: true, parts: WHOLE }))
    }
  }) as never;
/** Nothing of a frame lies in it. */
const WHOLE = [
  {
    id: 'p',
    kind: 'radial',
    meets: 'add',
    centre: [5, 5],
    across: 0.01,
    down: 0.01,
    angle: 0,
    feather: 0,
    outside: false
  }
];

describe('giving settings a shape', () => {
  it('moves those that an area has into a new one, and leaves the others where they are', () => {
    const recipe = completeRecipe(SET);
    expect(movable(recipe, SWITCHES)).toEqual([
      'tone.exposure',
      'tone.contrast',
      'tone.curve',
      'colour.saturation',
      'colour.hues'
    ]);
    const moved = withShape(recipe, SWITCHES, 'new');
    expect(moved.tone).toMatchObject({ exposure: 0, contrast: 0, recovery: 40, curve: [] });
    expect(moved.colour).toMatchObject({ saturation: 0, hues: [] });
    const [area] = moved.areas.list as unknown as { shape: string; settings: Record<string, object> }[];
    expect(area).toMatchObject({
      shape: 'new',
      settings: { tone: { exposure: 0.7, contrast: 30 }, colour: { saturation: -40, hues: SET.colour!.hues } }
    });
    expect(moved.areas.shapes).toMatchObject([{ id: 'new', parts: [] }]);
    expect(withShape(recipe, ['tone.recovery'], 'none')).toBe(recipe);
  });

  it('is what it was where the shape is all of the frame, and nothing outside of it', () => {
    const source = paint((x, y) => [0.05 + x / 1200, 0.25 - y / 3000, 0.1 + y / 1500]);
    const seen = (recipe: PartialRecipe): Uint16Array => rendered(source, inputsFor(recipe));
    for (const own of [
      { tone: { exposure: 0.7, contrast: 30 } },
      { tone: { curve: [{ x: 0.5, y: 0.65 }] } },
      { colour: { saturation: -60 } },
      { colour: { hues: [{ at: 40, hue: 30, chroma: 50, light: -40 }] } },
      { tone: { shadows: 60, broad: 40 } }
    ] as PartialRecipe[]) {
      const whole = completeRecipe(own);
      const moved = withShape(whole, SWITCHES, 'a');
      expect(seen(moved), JSON.stringify(own)).toEqual(seen({}));
      const [one, other] = [seen(whole), seen(everywhere(moved))];
      let worst = 0;
      for (let i = 0; i < one.length; i += 97) worst = Math.max(worst, Math.abs(one[i] - other[i]));
      expect(worst, JSON.stringify(own)).toBeLessThan(200);
    }
  });
});

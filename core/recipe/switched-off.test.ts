import { Ajv } from 'ajv';
import { describe, expect, it } from 'vitest';
import { SETTING_KEYWORDS } from '../settings/step.ts';
import { inputsFor, paint, rendered } from '../render/painted-frame.ts';
import { carryPart } from './carry-over.ts';
import { describeChange } from './describe-change.ts';
import { houseStepsOf, withHouseSettings } from './house-settings.ts';
import { type PartialRecipe, completeRecipe, recipeSchema } from './recipe.ts';
import { atWork, neutralRecipe, switched, touchedOf, withNeutral, withNeutralStep } from './switched-off.ts';
import { SWITCHES, switchesOf } from './switches.ts';

const SET: PartialRecipe = {
  tone: { exposure: 1, contrast: 40, curve: [{ x: 0.5, y: 0.7 }] },
  colour: { saturation: -40 },
  finish: { edge: -60 }
};

describe('settings that are switched off', () => {
  const source = paint((x, y) => [0.1 + x / 2000, 0.2, 0.1 + y / 1500]);
  const seen = (recipe: PartialRecipe): Uint16Array => rendered(source, inputsFor(recipe));

  it('stay as they are set, and pictures are made as if they were not', () => {
    const off = switched(completeRecipe(SET), ['tone.exposure', 'finish.edge'], true);
    expect(off.tone.exposure).toBe(1);
    const { tone, colour } = SET;
    expect(seen(off)).toEqual(seen({ tone: { ...tone, exposure: 0 }, colour }));
    expect(seen(off)).not.toEqual(seen(SET));
    expect(seen(switched(off, ['tone.exposure', 'finish.edge'], false))).toEqual(seen(SET));
    expect(atWork(off).off).toEqual([]);
  });

  it('are told by groups, and only where something is set', () => {
    const recipe = completeRecipe(SET);
    expect(touchedOf(recipe, switchesOf('tone', ['light']))).toEqual(['tone.exposure', 'tone.contrast']);
    expect(touchedOf(recipe, switchesOf('tone', ['bands']))).toEqual([]);
    expect(switchesOf('lens', ['falloff'])).toContain('lens.falloff');
    expect(new Set(SWITCHES).size).toBe(SWITCHES.length);
  });

  it('are valid in a recipe by their names alone', () => {
    const ajv = new Ajv({ keywords: [...SETTING_KEYWORDS] });
    const valid = ajv.compile({ ...recipeSchema, $id: 'off' });
    expect(valid({ off: ['tone.curve'] })).toBe(true);
    for (const off of [['tone.enabled'], ['tone'], ['tone.curve', 'tone.curve'], 'tone.curve'])
      expect(valid({ off }), JSON.stringify(off)).toBe(false);
  });

  it('go to other frames and into house settings as they are seen, and what comes in is at work', () => {
    const from = switched(completeRecipe(SET), ['tone.curve'], true);
    const to = switched(
      completeRecipe({ tone: { exposure: -1, haze: 20 } }),
      ['tone.exposure', 'tone.haze'],
      true
    );
    const carried = completeRecipe(carryPart(from, to, 'tone'));
    expect([carried.tone.curve, carried.tone.exposure, carried.off]).toEqual([[], 1, []]);
    const group = completeRecipe(carryPart(from, to, 'tone.light'));
    expect([group.tone.exposure, group.tone.haze, group.off]).toEqual([1, 20, ['tone.haze']]);
    const laid = completeRecipe(withHouseSettings(to, houseStepsOf(from, ['tone'])));
    expect([laid.tone.curve, laid.off]).toEqual([[], []]);
  });

  it('are told in the history', () => {
    const before = completeRecipe(SET);
    const off = switched(before, ['tone.exposure'], true);
    expect(describeChange(before, off)).toBe('Exposure off');
    expect(describeChange(off, before)).toBe('Exposure on again');
  });
});

describe('back to neutral', () => {
  it('is a page, a step, or all of a frame, and leaves the rest', () => {
    const recipe = switched(completeRecipe({ ...SET, rendition: 2 }), ['tone.curve', 'finish.edge'], true);
    const page = withNeutral(recipe, switchesOf('tone', ['light']));
    expect([page.tone.exposure, page.tone.contrast, page.tone.curve.length]).toEqual([0, 0, 1]);
    const step = withNeutralStep(recipe, 'tone');
    expect([step.tone, step.off]).toEqual([completeRecipe().tone, ['finish.edge']]);
    expect(step.colour).toEqual(recipe.colour);
    expect(neutralRecipe(recipe)).toEqual(completeRecipe({ rendition: 2 }));
  });
});

describe('house settings by groups', () => {
  it('hold what was chosen, and leave all else of the frame', () => {
    const made = completeRecipe({
      colour: { hues: [{ at: 250, hue: 5, chroma: 20, light: -10 }], kelvin: 4000 },
      tone: SET.tone
    });
    const steps = houseStepsOf(made, ['colour.hues', 'tone.curve']);
    expect(Object.keys(steps.colour!)).toEqual(['hues']);
    const frame = completeRecipe({
      colour: { kelvin: 6200, saturation: 10 },
      tone: { levels: { ...completeRecipe().tone.levels, black: 0.1 } }
    });
    const laid = completeRecipe(withHouseSettings(frame, steps));
    expect(laid.colour).toMatchObject({ kelvin: 6200, saturation: 10, hues: [{ at: 250 }] });
    expect([laid.tone.levels.black, laid.tone.curve.length, laid.tone.exposure]).toEqual([0.1, 1, 0]);
  });

  it('go by the shorter way from hue to hue, and take a look by its own amount', () => {
    const zone = (hue: number) => ({ hue, chroma: 20, light: 0, saturation: 0 });
    const steps = { colour: { zoneShadows: zone(350), look: 'plaster', lookAmount: 40 } };
    const half = completeRecipe(
      withHouseSettings({ colour: { zoneShadows: zone(10) } } as never, steps as never, 50)
    );
    expect(half.colour.zoneShadows.hue).toBeCloseTo(0, 6);
    const quarter = completeRecipe(
      withHouseSettings(
        { colour: { zoneShadows: zone(340) } } as never,
        { colour: { zoneShadows: zone(20) } } as never,
        25
      )
    );
    expect(quarter.colour.zoneShadows.hue).toBeCloseTo(350, 6);
    expect([half.colour.look, half.colour.lookAmount]).toEqual(['plaster', 20]);
    const same = completeRecipe(
      withHouseSettings(
        { colour: { look: 'plaster', lookAmount: 100 } },
        { colour: { look: 'plaster', lookAmount: 40 } },
        50
      )
    );
    expect(same.colour.lookAmount).toBe(70);
  });
});

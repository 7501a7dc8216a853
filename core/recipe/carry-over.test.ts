/** Groups of settings that are carried over by themselves. */
import { describe, expect, it } from 'vitest';
import { CARRIED_PARTS, carryPart } from './carry-over.ts';
import { completeRecipe } from './recipe.ts';
import { EVERY_STEP } from './steps.ts';

describe('groups of settings', () => {
  it.each(EVERY_STEP.filter(({ carries }) => carries.groups.length > 0))(
    'part all that $name carries, each setting in one of them',
    ({ schema, carries }) => {
      const grouped = carries.groups.flatMap(({ settings }) => settings);
      const all = Object.keys(schema.properties).filter(
        (name) => name !== 'enabled' && !carries.stays.includes(name)
      );
      expect([...grouped].sort()).toEqual(all.sort());
    }
  );

  const from = {
    finish: { noise: 40, sharpening: 70, radius: 1.4, border: 3 },
    tone: { curve: 'medium', exposure: 1 }
  } as never;

  it('go alone: what else the step holds stays, and what is at its default there is so here', () => {
    const to = {
      finish: { noise: 10, noiseColour: 80, sharpening: 20, grain: 15 },
      crop: { ratio: '4:5' }
    } as never;
    const after = carryPart(from, to, 'finish.noise');
    expect(after.finish).toEqual({ noise: 40, sharpening: 20, grain: 15 });
    expect(after.crop).toEqual({ ratio: '4:5' });
    expect(carryPart(from, to, 'finish.sharpening').finish).toEqual({
      noise: 10,
      noiseColour: 80,
      grain: 15,
      sharpening: 70,
      radius: 1.4
    });
    // A whole step replaces all of it.
    expect(carryPart(from, to, 'finish').finish).toEqual({
      noise: 40,
      sharpening: 70,
      radius: 1.4,
      border: 3
    });
  });

  it('switch a step on that is off here and on there, and leave one that is off there', () => {
    const off = { finish: { enabled: false, grain: 5 } } as never;
    expect(carryPart(from, off, 'finish.noise').finish).toMatchObject({ enabled: true, noise: 40, grain: 5 });
    expect(carryPart({ finish: { enabled: false, noise: 9 } }, off, 'finish.noise').finish).toMatchObject({
      enabled: false,
      noise: 9
    });
  });

  it('are no longer said to have been set by themselves', () => {
    const to = { tone: { setByItself: ['exposure', 'haze'], exposure: 0.4, haze: 10 } } as never;
    expect(carryPart(from, to, 'tone.light').tone).toMatchObject({
      setByItself: ['haze'],
      exposure: 1,
      haze: 10
    });
  });

  it('change nothing between frames that are as they came', () => {
    for (const part of CARRIED_PARTS)
      expect(completeRecipe(carryPart({}, {}, part))).toEqual(completeRecipe());
  });
});

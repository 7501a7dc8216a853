/** What follows from the list of steps, also with a step that there is not. */
import { Ajv } from 'ajv';
import { describe, expect, it } from 'vitest';
import { SETTING_KEYWORDS } from '../settings/step.ts';
import { type PartialRecipe, asShot, completeRecipe, recipeSchema } from './recipe.ts';
import { RENDITION } from '../settings/rendition.ts';
import { stepState, stepStates } from './step-state.ts';
import { EVERY_STEP } from './steps.ts';
import { withoutWhatStays } from './carry-over.ts';
import { RECIPE_VERSION, upgradeRecipe, wherever } from './upgrade.ts';

const mark = (found?: true) => ({
  id: 'm',
  kind: 'plumb' as const,
  a: [0, 0] as [number, number],
  b: [0, 0.5] as [number, number],
  ...(found ? { found } : {})
});

describe('a recipe', () => {
  it('is whole and valid when nothing is set, and as shot when every step is off', () => {
    const ajv = new Ajv({ allowUnionTypes: true });
    for (const keyword of SETTING_KEYWORDS) ajv.addKeyword(keyword);
    const valid = ajv.compile(recipeSchema);
    for (const recipe of [completeRecipe(), asShot()])
      expect(valid(recipe), JSON.stringify(valid.errors)).toBe(true);
    expect(completeRecipe().version).toBe(RECIPE_VERSION);
    for (const { name } of EVERY_STEP) {
      expect(completeRecipe()[name].enabled).toBe(true);
      expect(asShot()[name].enabled).toBe(false);
    }
    // Defaults are copies: filling one recipe leaves the next one neutral.
    completeRecipe().lines.marks.push(mark());
    expect(completeRecipe().lines.marks).toEqual([]);
  });

  it('has every setting of each step in range, with a label', () => {
    for (const { schema } of EVERY_STEP)
      for (const [name, setting] of Object.entries(schema.properties)) {
        expect(setting.label, name).toMatch(/\S/);
        const { minimum, maximum } = setting as { minimum?: number; maximum?: number };
        if (typeof setting.default !== 'number') continue;
        expect(setting.default).toBeGreaterThanOrEqual(minimum ?? -Infinity);
        expect(setting.default).toBeLessThanOrEqual(maximum ?? Infinity);
      }
  });
});

describe('the state of a step', () => {
  const nothing = { profileFound: false };
  it('is untouched, set by hand, or off whatever it holds', () => {
    expect(stepStates(completeRecipe(), nothing).map(({ state }) => state)).toEqual(
      EVERY_STEP.map(() => 'untouched')
    );
    expect(stepState(completeRecipe({ crop: { ratio: '4:3' } }), 'crop', nothing)).toBe('by hand');
    expect(
      stepState(completeRecipe({ lens: { enabled: false, bow: 3 } }), 'lens', { profileFound: true })
    ).toBe('off');
    expect(stepStates(asShot(), { profileFound: true }).map(({ state }) => state)).toEqual(
      EVERY_STEP.map(() => 'off')
    );
  });

  it('is automatic for a profile that was found, and for lines that were found and nothing beside them', () => {
    expect(stepState(completeRecipe(), 'lens', { profileFound: true })).toBe('automatic');
    expect(stepState(completeRecipe({ lens: { distortion: 90 } }), 'lens', { profileFound: true })).toBe(
      'by hand'
    );
    const found = { marks: [mark(true)], roll: 1, pitch: 4 };
    expect(stepState(completeRecipe({ lines: found }), 'lines', nothing)).toBe('automatic');
    expect(stepState(completeRecipe({ lines: { ...found, scale: 110 } }), 'lines', nothing)).toBe('by hand');
    expect(
      stepState(completeRecipe({ lines: { ...found, marks: [mark(true), mark()] } }), 'lines', nothing)
    ).toBe('by hand');
    expect(stepState(completeRecipe({ lines: { roll: 1 } }), 'lines', nothing)).toBe('by hand');
  });
});

describe('upgrading', () => {
  it('leaves recipes of the present format as they are, and does not change what it is given', () => {
    const present = completeRecipe({ lines: { holdBackRoll: 20 } });
    expect(upgradeRecipe(present)).toEqual({ ok: true, recipe: present });
    const old = Object.freeze({ version: 1, lines: Object.freeze({ holdBack: 5, holdBackYaw: 7 }) });
    expect(upgradeRecipe(old)).toEqual({
      ok: true,
      recipe: {
        version: RECIPE_VERSION,
        rendition: 1,
        lines: { holdBackRoll: 5, holdBackPitch: 5, holdBackYaw: 7 }
      }
    });
    for (const strange of [null, 7, 'x', [], { lines: 3 }, { lines: null }])
      expect(upgradeRecipe(strange).ok).toBe(true);
    expect(upgradeRecipe({ version: RECIPE_VERSION + 1 })).toMatchObject({ ok: false });
    expect(upgradeRecipe({ version: 0 })).toMatchObject({ ok: false });
  });

  it('keeps what was finished in the rendition that it was finished in, and nothing else', () => {
    const renditionOf = (recipe: object): unknown => {
      const upgraded = upgradeRecipe(recipe);
      return upgraded.ok && completeRecipe(upgraded.recipe as PartialRecipe).rendition;
    };
    expect(renditionOf({ version: 2, tone: { exposure: 1 } })).toBe(1);
    expect(renditionOf({ version: 1, crop: {} })).toBe(1);
    // Nothing was done to it yet, it was written by hand, or it is of today.
    for (const recipe of [
      { version: 2 },
      {},
      { tone: { exposure: 1 } },
      { version: 3, tone: { exposure: 1 } }
    ])
      expect(renditionOf(recipe)).toBe(RENDITION);
    expect(renditionOf({ version: 3, rendition: 1 })).toBe(1);
  });

  it('changes the settings of a step wherever they stand, and nothing that is only named alike', () => {
    const lighter = (settings: Record<string, unknown>) => ({ ...settings, exposure: 1 });
    const recipe = {
      tone: { exposure: 0 },
      areas: {
        list: [
          { id: 'a', tone: 'a name', settings: { tone: { contrast: 5 }, colour: { tone: { exposure: 0 } } } },
          { id: 'b', settings: { colour: {} } }
        ]
      }
    };
    const before = structuredClone(recipe);
    expect(wherever(recipe, 'tone', lighter)).toEqual({
      tone: { exposure: 1 },
      areas: {
        list: [
          {
            id: 'a',
            tone: 'a name',
            settings: { tone: { contrast: 5, exposure: 1 }, colour: { tone: { exposure: 0 } } }
          },
          { id: 'b', settings: { colour: {} } }
        ]
      }
    });
    expect(recipe).toEqual(before);
  });
});

describe('carrying over', () => {
  it('leaves what stays of each thing in a list as the other frame has it, by its id', () => {
    const value = [
      { id: 'sky', shape: [1, 2], settings: { exposure: -1 } },
      { id: 'door', shape: [3], settings: { exposure: 2 } }
    ];
    const other = [{ id: 'sky', shape: [9], settings: { exposure: 0 } }];
    expect(withoutWhatStays('list', value, other, ['list.shape', 'elsewhere'])).toEqual([
      { id: 'sky', shape: [9], settings: { exposure: -1 } },
      { id: 'door', settings: { exposure: 2 } }
    ]);
    expect(withoutWhatStays('list', value, undefined, ['other.shape'])).toBe(value);
  });
});

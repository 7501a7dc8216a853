import { describe, expect, it } from 'vitest';
import { type HouseRule, ruleApplies, withUntouchedSteps } from './house-rules.ts';
import { completeRecipe } from './recipe.ts';

const ANY: HouseRule = { set: 's', camera: '', lens: '', room: '', isoFrom: null, isoTo: null };
const facts = { make: 'Fenwright', model: 'F2', lens: 'Fenwright 16-35 mm f/4', iso: 800 };
const applies = (rule: Partial<HouseRule>, room = '', own: Partial<typeof facts> = {}): boolean =>
  ruleApplies({ ...ANY, ...rule }, { facts: { ...facts, ...own }, room });

describe('a rule for house settings', () => {
  it('holds where all that it names is there', () => {
    expect(applies({})).toBe(true);
    expect(applies({ camera: 'fenwright f2' })).toBe(true);
    expect(applies({ camera: 'brindle' })).toBe(false);
    expect(applies({ lens: '24 mm, 16-35' })).toBe(true);
    expect(applies({ lens: '24 mm, ' })).toBe(false);
    expect(applies({ lens: '16-35', camera: 'other' })).toBe(false);
  });

  it('holds from one sensitivity to another, both taken in, and not where a file names none', () => {
    expect(applies({ isoFrom: 800 })).toBe(true);
    expect(applies({ isoFrom: 801 })).toBe(false);
    expect(applies({ isoTo: 800 })).toBe(true);
    expect(applies({ isoTo: 799 })).toBe(false);
    expect(applies({ isoFrom: 100 }, '', { iso: null as never })).toBe(false);
    expect(applies({ lens: '16' }, '', { lens: null as never })).toBe(false);
  });

  it('waits for the room that it names', () => {
    expect(applies({ room: 'kitchen, bath' })).toBe(false);
    expect(applies({ room: 'kitchen, bath' }, 'Bathroom, first floor')).toBe(true);
    expect(applies({ room: 'kitchen' }, 'Street front')).toBe(false);
  });
});

describe('a set laid over by itself', () => {
  it('leaves steps that someone did something in as they are', () => {
    const steps = { tone: { contrast: 30 }, finish: { sharpening: 40 } };
    const made = completeRecipe(withUntouchedSteps({ tone: { exposure: 1 } } as never, steps));
    expect(made.tone).toMatchObject({ exposure: 1, contrast: 0 });
    expect(made.finish.sharpening).toBe(40);
    expect(completeRecipe(withUntouchedSteps({}, steps)).tone.contrast).toBe(30);
  });
});

import { describe, expect, it } from 'vitest';
import { describeChange } from './describe-change.ts';
import { type PartialRecipe, completeRecipe } from './recipe.ts';

const told = (before: PartialRecipe, after: PartialRecipe): string =>
  describeChange(completeRecipe(before), completeRecipe(after));

describe('a change of a recipe', () => {
  it('is told by its setting, from what to what, with its unit', () => {
    expect(told({}, { tone: { exposure: 0.7 } })).toBe('Exposure 0.00 → 0.70 EV');
    expect(told({ lines: { pitch: 9.5 } }, { lines: { pitch: -1.25 } })).toBe('Pitch 9.50 → −1.25 °');
    expect(told({}, { crop: { ratio: '4:3' } })).toMatch(/^Ratio.* 4:3$|^Ratio/);
    expect(told({}, { colour: { mono: true } })).toBe('Black and white on');
  });

  it('tells switched steps, lists by their length, and what was taken back', () => {
    expect(told({}, { lens: { enabled: false } })).toBe('Lens off');
    const curve = [
      { x: 0.3, y: 0.2 },
      { x: 0.7, y: 0.8 }
    ];
    expect(told({}, { tone: { curve } })).toBe('Curve 0 → 2');
    expect(told({ colour: { kelvin: 5000 } }, {})).toBe('Temperature taken back');
    expect(told({}, { colour: { kelvin: 5000 } })).toBe('Temperature 5000 K');
  });

  it('tells what changed of a thing in a list, as deep as it lies', () => {
    const areas = (exposure: number, feather: number, parts: object[] = []) =>
      ({
        areas: {
          shapes: [{ id: 's', feather, parts }],
          list: [{ id: 'a', shape: 's', settings: { tone: { exposure } } }]
        }
      }) as PartialRecipe;
    expect(told(areas(0, 5), areas(-1.5, 5))).toBe('Area a: Exposure 0.00 → −1.50 EV');
    expect(told(areas(0, 5), areas(0, 7))).toBe('Shapes: Feather 5.0 → 7.0 ‰');
    const named = (opacity: number) =>
      ({
        areas: {
          list: [
            { id: 'x', shape: 's' },
            { id: 'a', shape: 's', name: 'lawn', opacity }
          ]
        }
      }) as PartialRecipe;
    expect(told(named(100), named(40))).toBe('Area b, lawn: Opacity 100 → 40 %');
    const sky = { id: 'p', kind: 'found', meets: 'add', what: 'sky' };
    expect(told(areas(0, 5), areas(0, 5, [sky]))).toBe('Shapes: Parts 0 → 1');
    expect(told({}, areas(0, 5))).toBe('Shapes 0 → 1, Areas 0 → 1');
    const under = (up: number) =>
      ({ areas: { list: [{ id: 'a', shape: 's', sky: { picture: 'x', up } }] } }) as unknown as PartialRecipe;
    expect(told(under(0), under(20))).toBe('Area a: Up 0.0 → 20.0 %');
  });

  it('tells the first of many, and how many more', () => {
    const many = { tone: { exposure: 1, contrast: 10, highlights: -20, shadows: 5 } };
    expect(told({}, many)).toMatch(/^Exposure 0\.00 → 1\.00 EV, \S.* and 2 more$/);
    expect(told(many, many)).toBe('Nothing');
    // A store may give back the same in another order.
    const levels = { black: 0, middle: 1, white: 1, outBlack: 0, outWhite: 1 };
    const turned = Object.fromEntries(Object.entries(levels).reverse()) as typeof levels;
    expect(told({ tone: { levels } }, { tone: { levels: turned } })).toBe('Nothing');
    expect(told({ rendition: 1 }, { rendition: 2 })).toBe('Rendered anew');
  });
});

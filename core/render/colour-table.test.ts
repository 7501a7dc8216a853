import { differenceCiede2000 } from 'culori';
import { afterAll, describe, expect, it } from 'vitest';
import { ALL_TONE } from '../../bench/all-tone.ts';
import { seededRandom } from '../../scenes/random.ts';
import { giveBack, takeFloat32 } from '../picture/kernels/heap.ts';
import { packRgb } from '../picture/output/pack-pixels.ts';
import type { PartialRecipe } from '../recipe/recipe.ts';
import { NO_RESOURCES } from '../picture/tile/resource.ts';
import { TABLE_SIZE, fillTable, tableHolds, takeTable, worthTabling } from './colour-table.ts';
import { SIZE, type Rgb, inputsFor, paint, wholeView } from './painted-frame.ts';
import { renderTile } from './render-tile.ts';
import type { StageInputs } from './stages.ts';

/** The stages of a recipe that act on colours alone, without a look. */
const stagesOf = (recipe: PartialRecipe): StageInputs => ({
  ...inputsFor(recipe).stages,
  relight: null,
  look: null
});
const table = takeTable();
const random = seededRandom(8);
/** Light of six stops below white to a little above it, of all hues but none of the strongest. */
const colours = Array.from({ length: 4000 }, (): Rgb => {
  const light = 2 ** (-6 + 6.3 * random());
  return [light * (0.7 + 0.6 * random()), light * (0.8 + 0.4 * random()), light * (0.6 + 0.8 * random())];
});
const source = paint((x, y) => colours[(Math.floor(x / 8) * 53 + Math.floor(y / 8) * 7) % colours.length]);

function rendered(stages: StageInputs, by: typeof table | null): Uint16Array {
  const out = new Uint16Array(SIZE.width * SIZE.height * 3);
  const view = wholeView();
  renderTile({ source, view, stages, table: by }, packRgb(out, SIZE.width));
  return out;
}
const held = (stages: StageInputs): boolean => {
  const planes = { r: takeFloat32(4000), g: takeFloat32(4000), b: takeFloat32(4000) };
  colours.forEach(([r, g, b], i) => ([planes.r[i], planes.g[i], planes.b[i]] = [r, g, b]));
  const holds = tableHolds(table, stages, NO_RESOURCES, planes);
  giveBack(planes.r, planes.g, planes.b);
  return holds;
};
afterAll(() => giveBack(table));

describe('a table of colours', () => {
  it('shows what the stages show, with all of them in use', () => {
    const stages = stagesOf(ALL_TONE);
    fillTable(table, stages);
    expect(held(stages)).toBe(true);
    const [one, other] = [rendered(stages, null), rendered(stages, table)];
    const difference = differenceCiede2000();
    const at = (of: Uint16Array, i: number) => ({
      mode: 'rgb' as const,
      r: of[i] / 65535,
      g: of[i + 1] / 65535,
      b: of[i + 2] / 65535
    });
    const all: number[] = [];
    for (let i = 0; i < one.length; i += 3 * 61) all.push(difference(at(one, i), at(other, i)));
    all.sort((a, b) => a - b);
    expect(all.reduce((sum, value) => sum + value, 0) / all.length).toBeLessThan(0.2);
    expect(all[Math.floor(all.length * 0.99)]).toBeLessThan(1.2);
    expect(all.at(-1)).toBeGreaterThan(0);
  });

  it('is filled in parts as in one', () => {
    const stages = stagesOf(ALL_TONE);
    fillTable(table, stages);
    const whole = table.slice();
    table.fill(-1);
    for (const [from, to] of [
      [30, TABLE_SIZE],
      [0, 17],
      [17, 30]
    ])
      fillTable(table, stages, NO_RESOURCES, from, to);
    expect(table.subarray(0, -1)).toEqual(whole.subarray(0, -1));
  });

  it('is known not to hold where the stages are others, or bend more sharply than its nodes lie', () => {
    fillTable(table, stagesOf(ALL_TONE));
    expect(held(stagesOf({ ...ALL_TONE, colour: { ...ALL_TONE.colour, saturation: 30 } }))).toBe(false);
    const points = [
      { x: 0.5, y: 0.02 },
      { x: 0.52, y: 0.98 }
    ];
    const steep = stagesOf({ tone: { curve: points }, colour: ALL_TONE.colour });
    fillTable(table, steep);
    expect(held(steep)).toBe(false);
  });

  it('pays off where colours are graded, or a look is laid over them', () => {
    expect(worthTabling(inputsFor({ colour: { saturation: 5 } }).stages)).toBe(true);
    expect(worthTabling(inputsFor({ colour: { look: 'plaster' } }).stages)).toBe(true);
    expect(worthTabling(inputsFor({ tone: { exposure: 1 } }).stages)).toBe(false);
  });
});

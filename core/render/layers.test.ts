/** Another development of a frame mixed in by weights over its place. */
import { describe, expect, it } from 'vitest';
import { giveBack, takeUint8, takenBytes } from '../picture/kernels/heap.ts';
import { packRgb } from '../picture/output/pack-pixels.ts';
import type { FieldWeights } from '../picture/tile/field-weights.ts';
import { SIZE, inputsFor, paint, wholeView } from './painted-frame.ts';
import { renderTile } from './render-tile.ts';
import type { StageInputs } from './stages.ts';

const FACTS = { rendering: 'display' as const };
const source = paint((x, y) => [0.1 + x / 1500, 0.2 + y / 1000, 0.3]);

/** Weights by a function of the place, 0..1 across and down. */
function weightsOf(weight: (x: number, y: number) => number, width = 120, height = 80): FieldWeights {
  const values = takeUint8(width * height);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++)
      values[y * width + x] = Math.round(255 * weight((x + 0.5) / width, (y + 0.5) / height));
  return { width, height, values };
}

function rendered(
  stages: StageInputs,
  layers: { stages: StageInputs; weights: FieldWeights }[] = []
): Uint16Array {
  const out = new Uint16Array(SIZE.width * SIZE.height * 3);
  renderTile({ source, view: wholeView(), stages, layers }, packRgb(out, SIZE.width));
  return out;
}
const pixel = (of: Uint16Array, x: number, y: number): number[] =>
  [...of.subarray((y * SIZE.width + x) * 3, (y * SIZE.width + x) * 3 + 3)].map((code) => code / 65535);
/** IEC 61966-2-1. */
const linear = (value: number): number =>
  value <= 0.04045 ? value / 12.92 : ((value + 0.055) / 1.055) ** 2.4;

describe('layers', () => {
  const plain = inputsFor({}, FACTS).stages;
  const lighter = inputsFor({ tone: { exposure: 0.7 } }, FACTS).stages;
  const without = rendered(plain);
  const whole = rendered(lighter);

  it('show the picture where they weigh nothing, and themselves where they weigh all', () => {
    const half = weightsOf((x) => (x < 0.5 ? 0 : 1));
    const out = rendered(plain, [{ stages: lighter, weights: half }]);
    for (const y of [3, 200, 396]) {
      for (const x of [2, 150, 290]) expect(pixel(out, x, y)).toEqual(pixel(without, x, y));
      for (const x of [310, 450, 597]) expect(pixel(out, x, y)).toEqual(pixel(whole, x, y));
    }
    giveBack(half.values);
  });

  it('are mixed in light, by the weight of each place', () => {
    const ramp = weightsOf((x) => x);
    const out = rendered(plain, [{ stages: lighter, weights: ramp }]);
    for (const x of [60, 150, 300, 450, 540])
      pixel(out, x, 120).forEach((value, c) => {
        const share = (x + 0.5) / SIZE.width;
        const wanted =
          linear(pixel(without, x, 120)[c]) * (1 - share) + linear(pixel(whole, x, 120)[c]) * share;
        expect(Math.abs(linear(value) - wanted)).toBeLessThan(0.002);
      });
    giveBack(ramp.values);
  });

  it('stay where they are on the frame when the geometry changes', () => {
    const recipe = { lines: { roll: 4, pitch: 6 }, lens: { bow: 3 } };
    const flat = paint(() => [0.2, 0.2, 0.2]);
    const marked = paint((x) => (x < 300 ? [0.2, 0.2, 0.2] : [0.4, 0.4, 0.4]));
    const weights = weightsOf((x) => (x < 0.5 ? 0 : 1), 600, 400);
    const [base, twice] = [recipe, { ...recipe, tone: { exposure: 1 } }].map(
      (each) => inputsFor(each, FACTS).stages
    );
    const [one, other] = [new Uint16Array(600 * 400 * 3), new Uint16Array(600 * 400 * 3)];
    const view = wholeView();
    renderTile({ source: flat, view, stages: base, layers: [{ stages: twice, weights }] }, packRgb(one, 600));
    renderTile({ source: marked, view, stages: base }, packRgb(other, 600));
    // Painted twice as light, or made so by weight: the same, but for the pixels of the edge itself.
    let apart = 0;
    for (let i = 0; i < one.length; i += 3) if (Math.abs(one[i] - other[i]) > 400) apart++;
    expect(apart).toBeLessThan(400 * 4);
    expect(one.reduce((most, code) => Math.max(most, code), 0)).toBeGreaterThan(35000);
    giveBack(weights.values);
  });

  it('come one over another, in their order', () => {
    const before = takenBytes();
    const all = weightsOf(() => 1);
    const dark = inputsFor({ tone: { exposure: -2 } }, FACTS).stages;
    const layer = (stages: StageInputs) => ({ stages, weights: all });
    const out = rendered(plain, [layer(dark), layer(lighter)]);
    // Drawn to it in full: a code is lost by rounding at most.
    expect(out.reduce((worst, code, i) => Math.max(worst, Math.abs(code - whole[i])), 0)).toBeLessThanOrEqual(
      1
    );
    giveBack(all.values);
    expect(takenBytes()).toBe(before);
  });
});

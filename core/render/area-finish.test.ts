/** Finish in areas, and glow: against Finish on the whole frame, and against sums of their own. */
import { describe, expect, it } from 'vitest';
import { halfDiagonal } from '../math/frame-geometry.ts';
import { gaussian, seededRandom } from '../math/random.ts';
import type { View } from '../picture/tile/mesh.ts';
import { type PlacedPlanes, givePlanesBack } from '../picture/tile/planes.ts';
import type { PartialRecipe } from '../recipe/recipe.ts';
import { areaDetailStage } from '../steps/areas/detail-stage.ts';
import { changedPicture, sourceInputs } from './source-planes.ts';
import { SIZE, inputsFor, paint, rendered, wholeView } from './painted-frame.ts';

const FACTS = { rendering: 'display' as const, noise: { gain: 4e-4, read: 2e-3 } };
const { width, height } = SIZE;
const UNIT = halfDiagonal(SIZE);

/** All that is left of a column, or a gradient of so many pixels about it. */
const leftOf = (column: number, wide = 0) => ({
  id: 'g',
  kind: 'gradient',
  meets: 'add',
  a: [(column - wide / 2 - width / 2) / UNIT, 0],
  b: [(column + Math.max(1, wide / 2) - width / 2) / UNIT, 0],
  twoSided: false,
  softness: wide > 0 ? 100 : 0
});
const within = (finish: object, column = 3 * width, shape: object = {}, recipe: PartialRecipe = {}) =>
  inputsFor(
    {
      ...recipe,
      areas: {
        shapes: [{ id: 's', parts: [leftOf(column)], ...shape }],
        list: [{ id: 'a', shape: 's', settings: { finish } }]
      } as never
    },
    FACTS
  );
const finished = (finish: object) => inputsFor({ finish } as never, FACTS);

/** A pattern of edges with the noise of a sensor. */
const noisy = ((): PlacedPlanes => {
  const random = seededRandom(5);
  return paint((x, y) => {
    const light = (Math.floor(x / 37) + Math.floor(y / 53)) % 2 ? 0.35 : 0.08;
    return [0.9 * light, light, 0.8 * light].map(
      (value) => value + gaussian(random) * Math.sqrt(4e-4 * value + 4e-6)
    ) as [number, number, number];
  });
})();
const plain = rendered(noisy, inputsFor({}, FACTS));

const linear = (code: number): number => {
  const value = code / 65535;
  return value <= 0.04045 ? value / 12.92 : ((value + 0.055) / 1.055) ** 2.4;
};
/** Largest difference of codes in columns [from, to) of rows [top, bottom). */
function apart(
  one: Uint16Array,
  other: Uint16Array,
  from: number,
  to: number,
  top = 0,
  bottom = height
): number {
  let most = 0;
  for (let y = top; y < bottom; y++)
    for (let i = (y * width + from) * 3; i < (y * width + to) * 3; i++)
      most = Math.max(most, Math.abs(one[i] - other[i]));
  return most;
}

describe('what an area has of Finish', () => {
  it('is what Finish does to a frame, where its shape is all of it', () => {
    const sharp = rendered(noisy, finished({ sharpening: 70 }));
    expect(apart(sharp, plain, 0, width)).toBeGreaterThan(800);
    expect(apart(rendered(noisy, within({ sharpening: 70 })), sharp, 0, width)).toBeLessThan(3);
    const inputs = finished({ noise: 50, noiseColour: 50 });
    const shrunk = changedPicture(noisy, sourceInputs(inputs.stages));
    const clean = rendered({ ...noisy, ...shrunk }, inputs);
    givePlanesBack(shrunk);
    expect(apart(clean, plain, 0, width)).toBeGreaterThan(2000);
    // That works on the sensor's own pixels, before they are moved: a straight lens moves none. At the frame's edge one knows
    // what the other does not: that there is nothing beyond.
    const own = rendered(noisy, within({ noise: 50 }));
    expect(apart(own, clean, 100, 500, 100, 300)).toBeLessThan(3);
    expect(apart(own, clean, 0, width)).toBeLessThan(0.2 * apart(clean, plain, 0, width));
  });

  it.each([{ sharpening: 70 }, { noise: 60 }, { sharpening: -60 }, { glow: 100 }])(
    'stays in its shape: %j',
    (finish) => {
      const bright: PartialRecipe = { finish: { glowFrom: -4 } as never };
      const whole = rendered(noisy, within(finish, 3 * width, {}, bright));
      const half = rendered(noisy, within(finish, 301, {}, bright));
      expect(apart(half, whole, 0, 299)).toBeLessThan(3);
      expect(apart(half, plain, 303, width)).toBe(0);
      expect(apart(whole, plain, 303, width)).toBeGreaterThan(500);
      // Begun with the first step of the slider, and going on.
      const [name, value] = Object.entries(finish)[0];
      const little = rendered(noisy, within({ [name]: Math.sign(value) }, 3 * width, {}, bright));
      const most = apart(little, plain, 0, width);
      expect(most).toBeLessThan(0.5 * apart(whole, plain, 0, width));
    }
  );

  it('sharpens finer structures where noise was taken out, of the frame or of the area, but not by a Finish that is off', () => {
    const after = (finish: object, own: object = {}): Uint16Array =>
      rendered(noisy, within({ sharpening: 70, ...own }, 3 * width, {}, { finish: finish as never }));
    const plainly = after({});
    expect(apart(after({ noise: 50 }), plainly, 0, width)).toBeGreaterThan(100);
    expect(apart(after({ enabled: false, noise: 50 }), plainly, 0, width)).toBe(0);
    // Of the area itself as of the frame.
    const both = after({ noise: 50 }, { noise: 50 });
    expect(apart(after({}, { noise: 50 }), both, 0, width)).toBe(0);
  });

  it.each([
    {
      radius: 20,
      parts: [
        [0, 0, 233, 150],
        [232, 150, 368, 250]
      ]
    },
    {
      radius: 0,
      parts: [
        [231, 149, 369, 251],
        [0, 150, 301, 99],
        [299, 0, 7, 9]
      ]
    }
  ])('is the same in tiles as in one, at odd places and where masks are refined', ({ radius, parts }) => {
    const inputs = within({ sharpening: -40, noise: 40 }, 280, { radius });
    const whole = rendered(noisy, inputs);
    const view = wholeView();
    for (const [left, top, w, h] of parts) {
      const part: View = {
        ...view,
        left: view.left + left * view.pixel,
        top: view.top + top * view.pixel,
        ...{ width: w, height: h }
      };
      const tile = rendered(noisy, inputs, part);
      let most = 0;
      for (let y = 0; y < h; y++)
        for (let i = 0; i < w * 3; i++)
          most = Math.max(most, Math.abs(tile[y * w * 3 + i] - whole[((top + y) * width + left) * 3 + i]));
      expect(most, `${left}`).toBeLessThan(20);
    }
  });

  it('looks no further about it for many areas, one over another, and shows no seam', () => {
    const list = Array.from({ length: 12 }, (_, i) => ({
      id: `a${i}`,
      shape: 's',
      settings: { finish: { noise: 30, sharpening: i % 2 ? 40 : -20 } }
    }));
    const inputs = inputsFor(
      { areas: { shapes: [{ id: 's', parts: [leftOf(3 * width)] }], list } as never },
      FACTS
    );
    const view = wholeView();
    const { areaDetail } = inputs.stages;
    expect(areaDetailStage.reach(areaDetail!, view.pixel)).toBeLessThan(250);
    const whole = rendered(noisy, inputs);
    const part = rendered(noisy, inputs, { ...view, left: view.left + 300 * view.pixel, width: 300 });
    let most = 0;
    for (let y = 0; y < height; y++)
      for (let i = 0; i < 3 * 8; i++)
        most = Math.max(most, Math.abs(part[y * 900 + i] - whole[(y * width + 300) * 3 + i]));
    expect(most).toBeLessThan(130);
  });

  it('softens as a Gaussian does, and draws nothing in from where there is no picture', () => {
    const edge = paint((x) => (x < 300 ? [0.1, 0.1, 0.1] : [0.5, 0.5, 0.5]));
    const soft = rendered(edge, within({ sharpening: -100 }));
    for (const x of [280, 290, 297, 300, 303, 310, 322]) {
      let wanted = 0;
      let sum = 0;
      for (let k = -20; k <= 20; k++) {
        const weight = Math.exp((-k * k) / 128);
        wanted += weight * (x + k < 300 ? 0.1 : 0.5);
        sum += weight;
      }
      const got = linear(soft[(200 * width + x) * 3 + 1]);
      expect(Math.abs(got / (wanted / sum) - 1), `${x}`).toBeLessThan(0.01);
    }
    // Turned, with blank corners kept: as light beside them as away from them.
    const even = paint(() => [0.3, 0.3, 0.3]);
    const turned = within({ sharpening: -100 }, 3 * width, {}, {
      lines: { roll: 8 },
      crop: { blank: true, rectangle: { x: -0.8, y: -0.5, width: 1.6, height: 1 } }
    } as never);
    const view = { ...wholeView(), left: turned.plan.crop.x, top: turned.plan.crop.y };
    const out = rendered(even, turned, view);
    const values = new Set(out);
    expect(values.size).toBeGreaterThan(1);
    const usual = out[(200 * width + 300) * 3 + 1];
    for (const value of values)
      expect(value === 65535 || value === 0 || Math.abs(value - usual) < 40).toBe(true);
  });

  it('blurs as far in a reduced picture, as seen', () => {
    const edge = paint((x) => (x < 300 ? [0.1, 0.1, 0.1] : [0.5, 0.5, 0.5]));
    const inputs = within({ sharpening: -100 });
    const full = rendered(edge, inputs);
    const half = rendered(edge, inputs, wholeView(SIZE, 2));
    for (const x of [140, 146, 149, 150, 153, 160]) {
      const wanted =
        (linear(full[(200 * width + 2 * x) * 3]) + linear(full[(200 * width + 2 * x + 1) * 3])) / 2;
      expect(Math.abs(linear(half[(100 * 300 + x) * 3]) / wanted - 1), `${x}`).toBeLessThan(0.02);
    }
  });
});

describe('glow', () => {
  const [cx, cy, radius] = [301, 199, 20];
  const lamp = paint((x, y) => (Math.hypot(x - cx, y - cy) < radius ? [3, 2.4, 1.2] : [0.05, 0.05, 0.05]));
  const dark = rendered(lamp, inputsFor({}, { rendering: 'display' }));
  const glowing = (finish: object, recipe: object = {}) =>
    rendered(lamp, inputsFor({ ...recipe, finish } as never, { rendering: 'display' }));

  it('spreads the light of bright parts as two Gaussians do, in their own colour', () => {
    const out = glowing({ glow: 100, glowReach: 50, glowFrom: 0 });
    const near = 0.004 * Math.sqrt(0.05 / 0.004) * UNIT;
    for (const distance of [25, 35, 50, 80]) {
      let share = 0;
      for (let y = -radius; y <= radius; y++)
        for (let x = -radius; x <= radius; x++) {
          if (Math.hypot(x, y) >= radius) continue;
          const d2 = (x - distance) ** 2 + y * y;
          const at = (deviation: number): number =>
            Math.exp(-d2 / (2 * deviation ** 2)) / (2 * Math.PI * deviation ** 2);
          share += 0.6 * at(near) + 0.4 * at(3 * near);
        }
      const pixel = (cy * width + cx + distance) * 3;
      [3, 2.4, 1.2].forEach((light, c) => {
        const gained = linear(out[pixel + c]) - linear(dark[pixel + c]);
        const wanted = 0.8 * light * share;
        expect(Math.abs(gained - wanted), `${distance} ${c}`).toBeLessThan(0.06 * wanted + 0.0015);
      });
    }
  });

  it('leaves what glows itself, and what is not bright, as it is', () => {
    // Two stops darker it is not clipped: in its middle it gains no more than it spreads.
    const darker = { tone: { exposure: -2 } };
    const middle = (cy * width + cx) * 3;
    const alone = rendered(lamp, inputsFor(darker as never, { rendering: 'display' }));
    const out = glowing({ glow: 100, glowReach: 0, glowFrom: -2 }, darker);
    expect(alone[middle]).toBeLessThan(62000);
    expect(Math.abs(out[middle] - alone[middle])).toBeLessThan(150);
    expect(out[middle + 3 * (radius + 3)]).toBeGreaterThan(1.5 * alone[middle + 3 * (radius + 3)]);
    const none = glowing({ glow: 100, glowFrom: 1 }, { tone: { exposure: -3 } });
    const without = rendered(lamp, inputsFor({ tone: { exposure: -3 } } as never, { rendering: 'display' }));
    expect(apart(none, without, 0, width)).toBe(0);
    // Exposed more, darker parts glow as well.
    expect(
      apart(glowing({ glow: 100, glowFrom: -1 }, { tone: { exposure: 3 } }), without, 0, 200)
    ).toBeGreaterThan(0);
  });

  it('adds the less to what glows itself the brighter that is', () => {
    const gained = [0.05, 0.7].map((spot) => {
      const of = paint((x, y) => {
        const away = Math.hypot(x - cx, y - cy);
        if (away < 4) return [spot, spot, spot];
        return away < radius ? [3, 3, 3] : [0.05, 0.05, 0.05];
      });
      const [lit, unlit] = [100, 0].map((glow) =>
        rendered(
          of,
          inputsFor({ tone: { exposure: -2 }, finish: { glow, glowFrom: -3 } } as never, {
            rendering: 'display'
          })
        )
      );
      const at = (cy * width + cx) * 3;
      return linear(lit[at]) - linear(unlit[at]);
    });
    expect(gained[1]).toBeGreaterThan(0);
    expect(gained[1]).toBeLessThan(0.85 * gained[0]);
  });

  it('is added in an area by its weight', () => {
    const [full, half] = [100, 50].map((opacity) => {
      const areas = {
        shapes: [{ id: 's', parts: [leftOf(3 * width)] }],
        list: [{ id: 'a', shape: 's', opacity, settings: { finish: { glow: 100 } } }]
      };
      return rendered(lamp, inputsFor({ areas, finish: { glowFrom: 0 } } as never, { rendering: 'display' }));
    });
    const at = (cy * width + cx + 30) * 3 + 1;
    const [all, some] = [full, half].map((of) => linear(of[at]) - linear(dark[at]));
    expect(all).toBeGreaterThan(0.01);
    expect(some / all).toBeCloseTo(0.5, 2);
  });

  it('grows with the light where falloff is made good', () => {
    const corner = paint((x, y) =>
      Math.hypot(x - 60, y - 50) < radius ? [3, 2.4, 1.2] : [0.05, 0.05, 0.05]
    );
    const recipe = (glow: number, lens: object) =>
      rendered(corner, inputsFor({ lens, finish: { glow, glowFrom: 0 } } as never, { rendering: 'display' }));
    const lens = { corner: 1.2 };
    const pixel = (50 * width + 90) * 3;
    const light = (of: Uint16Array): number => linear(of[pixel + 1]);
    const [plain, bright] = [light(recipe(0, {})), light(recipe(0, lens))];
    expect(bright / plain).toBeGreaterThan(1.3);
    const [glowing, glowingBright] = [light(recipe(100, {})), light(recipe(100, lens))];
    expect((glowingBright - bright) / (glowing - plain)).toBeCloseTo(bright / plain, 1);
  });

  it('is alike at every size', () => {
    const inputs = inputsFor({ finish: { glow: 60, glowReach: 40 } } as never, { rendering: 'display' });
    const [full, half] = [rendered(lamp, inputs), rendered(lamp, inputs, wholeView(SIZE, 2))];
    for (const [x, y] of [
      [165, 100],
      [150, 120],
      [130, 90]
    ]) {
      const at = (row: number, column: number): number => linear(full[(row * width + column) * 3 + 1]);
      const mean =
        (at(2 * y, 2 * x) + at(2 * y + 1, 2 * x) + at(2 * y, 2 * x + 1) + at(2 * y + 1, 2 * x + 1)) / 4;
      expect(Math.abs(linear(half[(y * 300 + x) * 3 + 1]) / mean - 1)).toBeLessThan(0.01);
    }
  });
});

describe('less of what the whole frame has', () => {
  const lamp = paint((x, y) => (Math.hypot(x - 300, y - 200) < 40 ? [3, 3, 2.6] : [0.05, 0.04, 0.06]));
  const shapes = [
    {
      id: 's',
      parts: [{ id: 'p', kind: 'beside', meets: 'add', a: [0, -0.5], b: [0, 0.5], side: 'left', feather: 0 }]
    }
  ];
  const seen = (glow: number, less: number): Uint16Array => {
    const areas = { shapes, list: [{ id: 'a', shape: 's', settings: { finish: { glow: less } } }] };
    return rendered(
      lamp,
      inputsFor({ areas, finish: { glow, glowFrom: 0, glowReach: 90 } } as never, { rendering: 'display' })
    );
  };
  const at = (picture: Uint16Array, x: number): number => picture[(200 * 600 + x) * 3 + 1];
  it('takes glow back in a share of the frame, all of it at -100, and none where there is none', () => {
    const [none, whole] = [seen(0, 0), seen(80, 0)];
    for (const x of [200, 225, 245]) {
      expect(at(whole, x) - at(none, x), String(x)).toBeGreaterThan(300);
      expect(Math.abs(at(seen(80, -100), x) - at(none, x)), String(x)).toBeLessThan(20);
      expect(at(seen(80, -50), x), String(x)).toBeGreaterThan(at(none, x));
      expect(at(seen(80, -50), x), String(x)).toBeLessThan(at(whole, x));
      expect(at(seen(80, -100), 600 - x)).toBe(at(whole, 600 - x));
    }
    expect(seen(0, -100)).toEqual(none);
  });
});

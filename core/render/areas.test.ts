/** Areas: what is done to a part of a picture, through all stages. */
import { converter, differenceCiede2000 } from 'culori';
import { describe, expect, it } from 'vitest';
import { giveBack, takenBytes } from '../picture/kernels/heap.ts';
import { type PartialRecipe, completeRecipe } from '../recipe/recipe.ts';
import type { Part } from '../steps/areas/parts/part.ts';
import { FROM_SRGB, SIZE, inputsFor, paint, rendered, wholeView } from './painted-frame.ts';
import { packRgb } from '../picture/output/pack-pixels.ts';
import { halve } from '../picture/tile/halve.ts';
import { type PlacedPlanes, givePlanesBack } from '../picture/tile/planes.ts';
import { NO_RESOURCES, keyOf } from '../picture/tile/resource.ts';
import { renderTile } from './render-tile.ts';
import { resourceOf } from './resources.ts';
import { asksOf } from './stages.ts';
import { makeMask } from '../steps/areas/mask.ts';
import { maskResource } from '../steps/areas/mask-resource.ts';
import { maskSpecOf } from '../steps/areas/shape.ts';

const FINISHED = { rendering: 'display' as const };
type Areas = NonNullable<PartialRecipe['areas']>;
type Settings = { tone?: object; colour?: object };

const gradient = (a: [number, number], b: [number, number], more: object = {}): Part => ({
  id: 'g',
  kind: 'gradient',
  meets: 'add',
  a,
  b,
  twoSided: false,
  softness: 100,
  ...more
});
const radial = (more: object = {}): Part => ({
  id: 'r',
  kind: 'radial',
  meets: 'add',
  centre: [0, 0],
  across: 0.4,
  down: 0.2,
  angle: 0,
  feather: 50,
  outside: false,
  ...more
});
const ALL = gradient([3, 0], [4, 0]);

/** One area of some parts; `shape`: what is done to all of them. */
const areasOf = (parts: readonly Part[], settings: Settings, shape: object = {}, area: object = {}): Areas =>
  ({
    shapes: [{ id: 's', parts, ...shape }],
    list: [{ id: 'a', shape: 's', settings, ...area }]
  }) as unknown as Areas;

const inputs = (areas: Areas, more: PartialRecipe = {}) => inputsFor({ ...more, areas }, FINISHED);
const codeAt = (of: Uint16Array, x: number, y: number): number[] => [
  ...of.subarray((y * SIZE.width + x) * 3, (y * SIZE.width + x) * 3 + 3)
];
/** IEC 61966-2-1. */
const linear = (code: number): number => {
  const value = code / 65535;
  return value <= 0.04045 ? value / 12.92 : ((value + 0.055) / 1.055) ** 2.4;
};

const source = paint((x, y) => [0.08 + x / 4000, 0.1 + y / 4000, 0.12]);
const plain = rendered(source, inputs({}));
const weightsOf = (areas: Areas, of = source): { at: (x: number, y: number) => number } => {
  const recipe = inputs(areas).recipe;
  const mask = makeMask(
    { planes: of, toWorking: FROM_SRGB, picture: null },
    maskSpecOf(recipe.areas.shapes[0] as never)
  );
  const values = new Uint8Array(mask.values);
  giveBack(...maskResource.memory(mask));
  const { width, height } = mask;
  return {
    at: (x, y) =>
      values[Math.floor((y * height) / SIZE.height) * width + Math.floor((x * width) / SIZE.width)] / 255
  };
};

describe('an area', () => {
  it('changes nothing, bit for bit, while nothing is set, its shape is empty, or it is off', () => {
    const lighter = { tone: { exposure: 1 } };
    for (const areas of [
      areasOf([ALL], {}),
      areasOf([], lighter),
      areasOf([ALL], lighter, {}, { enabled: false }),
      areasOf([ALL], lighter, {}, { opacity: 0 }),
      { ...areasOf([ALL], lighter), enabled: false },
      { ...areasOf([ALL], lighter), shapes: [] },
      areasOf([gradient([9, 9].map(() => 1.4) as never, [1.5, 1.5], { softness: 0 })], lighter, {
        invert: true
      })
    ])
      expect(Buffer.from(rendered(source, inputs(areas)).buffer).equals(Buffer.from(plain.buffer))).toBe(
        true
      );
  });

  it('lights what belongs to it as much as an exposure, and mixes in light where it fades', () => {
    const areas = areasOf([gradient([-0.5, 0], [0.5, 0])], { tone: { exposure: 1 } });
    const out = rendered(source, inputs(areas));
    const weights = weightsOf(areas);
    for (const x of [20, 150, 299, 340, 450, 580])
      codeAt(out, x, 200).forEach((code, c) => {
        const before = linear(codeAt(plain, x, 200)[c]);
        const wanted = before * (1 + weights.at(x, 200));
        expect(Math.abs(linear(code) / wanted - 1), `${x} ${c}`).toBeLessThan(0.01);
      });
    expect(weights.at(20, 200)).toBe(1);
    expect(weights.at(299, 200)).toBeCloseTo(0.5, 1);
    expect(weights.at(580, 200)).toBe(0);
  });

  it('is mixed in by its opacity, and several act one over another', () => {
    const half = rendered(source, inputs(areasOf([ALL], { tone: { exposure: 1 } }, {}, { opacity: 50 })));
    const at = linear(codeAt(half, 300, 200)[1]) / linear(codeAt(plain, 300, 200)[1]);
    expect(at).toBeCloseTo(1.5, 2);
    const one = areasOf([ALL], { tone: { exposure: 1 } });
    const two: Areas = {
      ...one,
      list: [...one.list!, { ...one.list![0], id: 'b', settings: { tone: { exposure: -1 } } }] as never
    };
    const both = rendered(source, inputs(two));
    const worst = both.reduce((most, code, i) => Math.max(most, Math.abs(code - plain[i])), 0);
    expect(worst).toBeLessThan(40);
  });

  it('stays where it is on the frame, whatever the geometry, the crop and the size of the picture', () => {
    const geometry: PartialRecipe = { lines: { roll: 3, pitch: 5 }, lens: { bow: 3 } };
    const areas = areasOf([radial({ feather: 0 })], { tone: { exposure: 1 } });
    const flat = paint(() => [0.2, 0.2, 0.2]);
    const [w, h] = [SIZE.width, SIZE.height];
    const unit = Math.hypot(w, h) / 2;
    const painted = paint((x, y) => {
      const [u, v] = [(x - w / 2) / unit / 0.4, (y - h / 2) / unit / 0.2];
      const light = Math.hypot(u, v) < 1 ? 0.4 : 0.2;
      return [light, light, light];
    });
    for (const view of [wholeView(), wholeView(SIZE, 2)]) {
      const one = rendered(flat, inputs(areas, geometry), view);
      const other = rendered(painted, inputs({}, geometry), view);
      let apart = 0;
      for (let i = 0; i < one.length; i += 3) if (Math.abs(one[i] - other[i]) > 1500) apart++;
      // The rim itself: an ellipse of some 800 pixels round.
      expect(apart).toBeLessThan((1800 * view.width) / w);
    }
  });

  it('balances, saturates and turns colours of its own part alone', () => {
    const left = gradient([-0.02, 0], [0.02, 0], { softness: 0 });
    const out = rendered(
      source,
      inputs(
        areasOf([left], {
          colour: { warmth: 40, saturation: 30 },
          tone: { curve: [{ x: 0.4, y: 0.5 }] }
        })
      )
    );
    expect(codeAt(out, 500, 200)).toEqual(codeAt(plain, 500, 200));
    const [r, , b] = codeAt(out, 100, 200);
    const [wasR, , wasB] = codeAt(plain, 100, 200);
    expect(r / b).toBeGreaterThan((1.05 * wasR) / wasB);
    const whole = rendered(source, inputsFor({ colour: { warmth: 40, saturation: 30 } }, FINISHED));
    const own = rendered(source, inputs(areasOf([ALL], { colour: { warmth: 40, saturation: 30 } })));
    const worst = own.reduce((most, code, i) => Math.max(most, Math.abs(code - whole[i])), 0);
    expect(worst, 'all of the picture as an area is as the whole').toBeLessThan(60);
  });

  it('shows another revision of the frame through its shape, from the light as it came', () => {
    const left = gradient([-0.02, 0], [0.02, 0], { softness: 0 });
    const present = { tone: { exposure: -0.5, shadows: 40 }, colour: { warmth: 30 } };
    const other = { tone: { exposure: 0.8, contrast: 20 }, colour: { mono: true } };
    const settings = completeRecipe(other);
    const revision = { letter: 'B', settings: { tone: settings.tone, colour: settings.colour } };
    const areas = areasOf([left], { tone: { exposure: 3 } }, {}, { revision });
    const [both, now, then] = [{ ...present, areas }, present, other].map((recipe) =>
      rendered(source, inputsFor(recipe, FINISHED))
    );
    for (const y of [20, 200, 380]) {
      for (const x of [20, 150, 280]) expect(codeAt(both, x, y)).toEqual(codeAt(then, x, y));
      for (const x of [320, 450, 580]) expect(codeAt(both, x, y)).toEqual(codeAt(now, x, y));
    }
  });

  it('gives back all memory', () => {
    const before = takenBytes();
    weightsOf(areasOf([radial()], {}, { radius: 12 }));
    expect(takenBytes()).toBe(before);
  });
});

describe('the parts of a shape', () => {
  const at = (parts: readonly Part[], shape: object = {}) => weightsOf(areasOf(parts, {}, shape)).at;
  const disc = radial({ across: 0.3, down: 0.3, feather: 0 });
  const left = gradient([-0.01, 0], [0.01, 0], { softness: 0 });
  const meeting = (part: Part, meets: Part['meets']): Part => ({ ...part, id: meets, meets });

  it('are added, taken away, and kept within, in their order', () => {
    const union = at([disc, left]);
    expect([union(300, 200), union(30, 30), union(580, 30)]).toEqual([1, 1, 0]);
    const without = at([disc, meeting(left, 'take')]);
    expect([without(250, 200), without(340, 200), without(580, 30)]).toEqual([0, 1, 0]);
    const within = at([disc, meeting(left, 'within')]);
    expect([within(250, 200), within(340, 200), within(30, 30)]).toEqual([1, 0, 0]);
    // A first part that takes away does so from everything.
    const first = at([meeting(disc, 'take')]);
    expect([first(300, 200), first(30, 30)]).toEqual([0, 1]);
    const inverted = at([disc], { invert: true });
    expect([inverted(300, 200), inverted(30, 30)]).toEqual([0, 1]);
  });

  it('grow, shrink and soften', () => {
    // Half the diagonal is 360 pixels: the disc's edge lies at 300 + 108.
    const plainDisc = at([disc]);
    expect([plainDisc(400, 200), plainDisc(416, 200)]).toEqual([1, 0]);
    const grown = at([disc], { grow: 50 });
    expect([grown(416, 200), grown(432, 200)]).toEqual([1, 0]);
    const shrunk = at([disc], { grow: -50 });
    expect([shrunk(386, 200), shrunk(400, 200)]).toEqual([1, 0]);
    const soft = at([disc], { feather: 60 });
    expect(soft(408, 200)).toBeGreaterThan(0.3);
    expect(soft(408, 200)).toBeLessThan(0.6);
    expect(soft(300, 200)).toBe(1);
  });

  it('fill a polygon by even and odd, and a turned ellipse along its own axes', () => {
    const star: Part = {
      id: 'p',
      kind: 'polygon',
      meets: 'add',
      feather: 0,
      points: [
        [-0.4, -0.4],
        [0.4, -0.4],
        [0.4, 0.4],
        [-0.4, 0.4],
        [-0.4, -0.4],
        [-0.2, -0.2],
        [-0.2, 0.2],
        [0.2, 0.2],
        [0.2, -0.2],
        [-0.2, -0.2]
      ]
    };
    const ring = at([star]);
    expect([ring(300 - 108, 200), ring(300, 200), ring(300, 200 - 108), ring(10, 10)]).toEqual([1, 0, 1, 0]);
    const turned = at([radial({ across: 0.4, down: 0.1, angle: 90, feather: 0 })]);
    expect([turned(300, 200 + 130), turned(300 + 130, 200)]).toEqual([1, 0]);
    const slanted = at([radial({ across: 0.4, down: 0.1, angle: 45, feather: 0 })]);
    // Clockwise, as seen: down to the right.
    expect([slanted(300 + 90, 200 + 90), slanted(300 + 90, 200 - 90)]).toEqual([1, 0]);
  });

  it('paint strokes one over another, erase, and weigh by the pen', () => {
    const stroke = (points: number[], more: object = {}) => ({
      id: 'x',
      size: 0.1,
      softness: 0,
      flow: 100,
      erases: false,
      keepsEdges: false,
      points,
      ...more
    });
    const brush = (...strokes: ReturnType<typeof stroke>[]): Part => ({
      id: 'b',
      kind: 'brush',
      meets: 'add',
      strokes
    });
    const line = stroke([-0.5, 0, 1, 0.5, 0, 1]);
    const painted = at([brush(line)]);
    expect([painted(300, 200), painted(300, 230), painted(300, 240), painted(40, 200)]).toEqual([1, 1, 0, 0]);
    // One stroke over itself is no denser; two are.
    const there = stroke([-0.5, 0, 1, 0.5, 0, 1, -0.5, 0, 1], { flow: 50 });
    expect(at([brush(there)])(300, 200)).toBeCloseTo(0.5, 2);
    expect(at([brush(there, there)])(300, 200)).toBeCloseTo(0.75, 2);
    const erased = at([brush(line, stroke([0, 0, 1], { erases: true }))]);
    expect([erased(300, 200), erased(350, 200)]).toEqual([0, 1]);
    // One more stroke over those that were drawn before, one other in their place, and one less.
    const again = at([brush(line, stroke([0, 0, 1], { erases: true }), stroke([0, -0.3, 1]))]);
    expect([again(300, 200), again(350, 200), again(300, 92)]).toEqual([0, 1, 1]);
    const other = at([brush(line, stroke([0.15, 0, 1], { erases: true }), stroke([0, -0.3, 1]))]);
    expect([other(300, 200), other(336, 200), other(300, 92)]).toEqual([1, 0, 1]);
    expect(at([brush(line)])(300, 92)).toBe(0);
    const light = at([brush(stroke([-0.5, 0, 0.2, 0.5, 0, 0.2]))]);
    expect([light(300, 200), light(300, 225)]).toEqual([1, 0]);
  });

  it('keep a brush to what lies under its middle: 4 pixels beyond a bar nothing is painted', () => {
    const bar = paint((_, y) => (y > 190 && y < 210 ? [0.6, 0.6, 0.62] : [0.12, 0.12, 0.11]));
    const strokes = [
      {
        id: 'x',
        size: 0.12,
        softness: 20,
        flow: 100,
        erases: false,
        keepsEdges: true,
        points: [-0.6, 0, 1, 0.6, 0, 1]
      }
    ];
    const kept = weightsOf(areasOf([{ id: 'b', kind: 'brush', meets: 'add', strokes }], {}), bar).at;
    for (let x = 120; x < 480; x += 7) {
      expect(kept(x, 200)).toBeGreaterThan(0.98);
      expect(kept(x, 186)).toBeLessThan(0.02);
      expect(kept(x, 214)).toBeLessThan(0.02);
    }
  });

  it('take in ranges of light and of colours, also turned round', () => {
    const patches = paint((x) =>
      x < 200 ? [0.05, 0.05, 0.05] : x < 400 ? [0.2, 0.2, 0.2] : [0.5, 0.12, 0.1]
    );
    const of = (part: Part) => weightsOf(areasOf([part], {}), patches).at;
    for (const [low, high] of [
      [-3, -2],
      [-2, -3]
    ]) {
      const light = of({ id: 'l', kind: 'light', meets: 'add', low, high, feather: 0.2 });
      expect([light(100, 200), light(300, 200)]).toEqual([0, 1]);
    }
    const colour = of({
      id: 'c',
      kind: 'colour',
      meets: 'add',
      picks: [[0.55, 0]],
      tolerance: 30,
      feather: 50
    });
    expect([colour(100, 200), colour(300, 200), colour(500, 200)]).toEqual([0, 0, 1]);
    const none = of({ id: 'c', kind: 'colour', meets: 'add', picks: [], tolerance: 30, feather: 50 });
    expect(none(500, 200)).toBe(0);
  });

  it('narrow a range of colours by hue, strength and lightness, each for itself', () => {
    const toLinear = converter('lrgb');
    /** Stripes that differ from the first in one thing alone, by CSS Color 4; the last is grey. */
    const stripes = [
      { l: 0.6, c: 0.1, h: 40 },
      { l: 0.6, c: 0.1, h: 65 },
      { l: 0.6, c: 0.1, h: 5 },
      { l: 0.6, c: 0.05, h: 40 },
      { l: 0.6, c: 0.15, h: 40 },
      { l: 0.5, c: 0.1, h: 40 },
      { l: 0.75, c: 0.1, h: 40 },
      { l: 0.6, c: 0.004, h: 40 }
    ];
    const wide = SIZE.width / stripes.length;
    const patches = paint((x) => {
      const { r, g, b } = toLinear({ mode: 'oklch', ...stripes[Math.floor(x / wide)] });
      return [r, g, b];
    });
    const shares = (widths: object, pick = 0): number[] => {
      const at = ((pick + 0.5) * wide - SIZE.width / 2) / (Math.hypot(SIZE.width, SIZE.height) / 2);
      const part = { id: 'c', kind: 'colour', meets: 'add', picks: [[at, 0]], tolerance: 100, feather: 20 };
      const weights = weightsOf(areasOf([{ ...part, ...widths } as unknown as Part], {}), patches).at;
      return stripes.map((_, i) => Math.round(10 * weights((i + 0.5) * wide, 200)) / 10);
    };
    expect(shares({})).toEqual([1, 1, 1, 1, 1, 1, 1, 1]);
    expect(shares({ hue: 180, strength: 100, lightness: 100 })).toEqual(shares({}));
    expect(shares({ hue: 20 })).toEqual([1, 0, 0, 1, 1, 1, 1, 0.2]);
    expect(shares({ hue: 33 }).slice(1, 3)).toEqual([1, 0]);
    expect(shares({ strength: 15 })).toEqual([1, 1, 1, 0, 0, 1, 1, 0]);
    expect(shares({ strength: 25 }).slice(3, 5)).toEqual([1, 1]);
    expect(shares({ lightness: 9 })).toEqual([1, 1, 1, 1, 1, 0, 0, 1]);
    expect(shares({ lightness: 13 }).slice(5, 7)).toEqual([1, 0]);
    expect(shares({ hue: 20, strength: 15, lightness: 9 })).toEqual([1, 0, 0, 0, 0, 0, 0, 0]);
    // A grey pick has no hue: a width of hues leaves out nothing.
    expect(shares({ hue: 10 }, 7)).toEqual(shares({}, 7));
  });
});

describe('a refined edge', () => {
  /** A roof of teeth, dark against a light sky. */
  const roofAt = (x: number): number => 200 + 12 * Math.abs(((x / 14) % 2) - 1);
  const roof = paint((x, y) => (y > roofAt(x) ? [0.04, 0.035, 0.03] : [0.4, 0.45, 0.55]));
  const rough = gradient([0, -0.02], [0, 0.04], { softness: 100 });

  it('follows the picture where the shape is only near to it, and leaves no halo at two stops', () => {
    const areas = areasOf([rough], { tone: { exposure: -2 } }, { radius: 30, sensitivity: 80 });
    const out = rendered(roof, inputs(areas));
    const before = rendered(roof, inputs({}));
    const darker = (x: number, y: number): number =>
      Math.log2(linear(codeAt(out, x, y)[1]) / linear(codeAt(before, x, y)[1]));
    let [sky, ground] = [0, 0];
    for (let x = 60; x < 540; x += 1) {
      const edge = Math.round(roofAt(x + 0.5));
      sky = Math.max(sky, Math.abs(darker(x, edge - 3) + 2));
      ground = Math.max(ground, Math.abs(darker(x, edge + 3)));
    }
    expect(sky).toBeLessThan(0.12);
    expect(ground).toBeLessThan(0.12);
  });
});

describe('masks from the proxy and from the whole picture', () => {
  /** Foliage before a sky: leaves of a few pixels, and a wall. A proxy has as many pixels as a mask has cells, or more. */
  const size = { width: 3200, height: 2000 };
  const leaf = (x: number, y: number): boolean => {
    const [u, v] = [Math.floor(x / 13), Math.floor(y / 10)];
    const noise = Math.abs(Math.sin(u * 12.9898 + v * 78.233) * 43758.5453) % 1;
    return Math.hypot(x - 1860, y - 880) < 480 && noise < 0.62;
  };
  const scene = paint((x, y): [number, number, number] => {
    if (leaf(x, y)) return [0.03, 0.05, 0.02];
    if (y < 1120 - 0.15 * x) return [0.3, 0.4, 0.62];
    return x < 1300 ? [0.28, 0.2, 0.15] : [0.22 + y / 16000, 0.25, 0.2];
  }, size);
  const stroke = (more: object) => ({
    id: 'x',
    size: 0.08,
    softness: 60,
    flow: 90,
    erases: false,
    keepsEdges: false,
    points: Array.from({ length: 60 }, (_, i) => [-0.6 + i / 50, -0.2 + 0.1 * Math.sin(i / 5), 1]).flat(),
    ...more
  });
  const eight: [Part, object, Settings][] = [
    [gradient([0, -0.5], [0, 0.1]), { radius: 10 }, { tone: { exposure: -1.2 } }],
    [radial(), {}, { tone: { exposure: 0.5, contrast: 20 } }],
    [
      { id: 'b', kind: 'brush', meets: 'add', strokes: [stroke({})] },
      { radius: 14 },
      { tone: { exposure: 0.8 } }
    ],
    [
      { id: 'e', kind: 'brush', meets: 'add', strokes: [stroke({ keepsEdges: true })] },
      {},
      { colour: { warmth: 30 } }
    ],
    [
      { id: 'l', kind: 'light', meets: 'add', low: -3, high: -1, feather: 1 },
      {},
      { colour: { saturation: 20 } }
    ],
    [
      { id: 'c', kind: 'colour', meets: 'add', picks: [[-0.7, 0.3]], tolerance: 20, feather: 70 },
      {},
      { colour: { hue: 8 } }
    ],
    [
      { id: 'd', kind: 'beside', meets: 'add', a: [0, -0.5], b: [0, 0.5], side: 'left', feather: 10 },
      {},
      { tone: { shadows: 30 } }
    ],
    [gradient([-0.5, 0], [0.5, 0]), { invert: true, feather: 10 }, { tone: { highlights: -30 } }]
  ];
  const areas = {
    shapes: eight.map(([part, shape], i) => ({ id: `s${i}`, parts: [part], ...shape })),
    list: eight.map(([, , settings], i) => ({ id: `a${i}`, shape: `s${i}`, settings }))
  } as unknown as Areas;

  it('make the same picture, within half a ΔE, where brush and refined edges meet foliage', () => {
    const { stages } = inputsFor({ areas }, { ...FINISHED, size });
    const half = halve(scene);
    const pictureBy = (planes: PlacedPlanes): Uint16Array => {
      const made = asksOf(stages).map((ask) => {
        const resource = resourceOf(ask);
        const value = resource.make(
          { planes, toWorking: FROM_SRGB, picture: null, bytes: null, resources: NO_RESOURCES },
          ask.data
        );
        return { key: keyOf(ask), value, memory: resource.memory(value) };
      });
      const out = new Uint16Array(size.width * size.height * 3);
      const resources = new Map(made.map(({ key, value }) => [key, value]));
      renderTile({ source: scene, stages, view: wholeView(size), resources }, packRgb(out, size.width));
      made.forEach(({ memory }) => giveBack(...memory));
      return out;
    };
    const [bench, whole] = [pictureBy(half), pictureBy(scene)];
    givePlanesBack(half);
    const toLab = converter('lab65');
    const labOf = (of: Uint16Array, i: number) =>
      toLab({ mode: 'rgb', r: of[i] / 65535, g: of[i + 1] / 65535, b: of[i + 2] / 65535 });
    const apart: number[] = [];
    for (let i = 0; i < whole.length; i += 3 * 37)
      apart.push(differenceCiede2000()(labOf(bench, i), labOf(whole, i)));
    apart.sort((a, b) => a - b);
    expect(apart[Math.floor(apart.length * 0.99)]).toBeLessThan(0.5);
    expect(apart.reduce((sum, each) => sum + each, 0) / apart.length).toBeLessThan(0.1);
  });
});

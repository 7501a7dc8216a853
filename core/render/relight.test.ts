/** Tone that looks about, through all stages: no halos, the same at every size and under every geometry. */
import { converter, differenceCiede2000 } from 'culori';
import { describe, expect, it } from 'vitest';
import type { FrameSize } from '../math/frame-geometry.ts';
import { inArena } from '../picture/kernels/arena.ts';
import { addressOf } from '../picture/kernels/heap.ts';
import { kernels } from '../picture/kernels/kernels.ts';
import { addresses, givePlanesBack } from '../picture/tile/planes.ts';
import { completeProfile } from '../optics/profile.ts';
import type { ToneSettings } from '../steps/tone/step.ts';
import { type Rgb, inputsFor, paint, rendered, wholeView } from './painted-frame.ts';

const LARGE: FrameSize = { width: 3000, height: 2000 };
const EDGE = 1503;
const [LIGHT, DARK] = [0.7, 0.7 / 16];
/** Two plain sides, four stops apart, each with a bar of the other as wide as is asked for. */
const sides =
  (bar: number) =>
  (x: number): Rgb => {
    const light = x < EDGE;
    const inBar = (x > 700 && x < 700 + bar) || (x > 2300 && x < 2300 + bar);
    const value = light !== inBar ? LIGHT : DARK;
    return [value, value, value];
  };
const edged = paint(sides(3), LARGE);
const barred = paint(sides(15), LARGE);
/** As wide as a glazing bar is close by. */
const thick = paint(sides(21), LARGE);

type Tone = Partial<ToneSettings>;
/** A row of what is shown, 0..1, of a frame of three thousand columns reduced by a number. */
function row(source: typeof edged, tone: Tone, reduction: number, size = LARGE): number[] {
  // As a display has it, light is shown as it is.
  const inputs = inputsFor({ tone: { exposure: -1, ...tone } }, { size, rendering: 'display' });
  const view = { ...wholeView(size, reduction), top: 0, height: 3 };
  const out = rendered(source, inputs, view);
  return Array.from({ length: view.width }, (_, x) => out[(view.width + x) * 3] / 65535);
}
const stops = (shown: number): number =>
  Math.log2(shown <= 0.04045 ? shown / 12.92 : ((shown + 0.055) / 1.055) ** 2.4);

/** Largest overshoot next to the edge, as a share of the step that is left. */
function overshoot(values: readonly number[], reduction: number): number {
  const at = (x: number): number => Math.round(x / reduction);
  const [light, dark] = [values[at(1100)], values[at(1900)]];
  const edge = EDGE / reduction;
  const beside = [
    ...values.slice(at(1150), Math.floor(edge) - 1).map((value) => value - light),
    ...values.slice(Math.ceil(edge) + 1, at(1850)).map((value) => dark - value)
  ];
  return Math.max(...beside.map(Math.abs)) / (light - dark);
}

const EXTREMES: Record<string, { tone: Tone; most: number }> = {
  highlights: { tone: { highlights: -100 }, most: 0.02 },
  shadows: { tone: { shadows: 100 }, most: 0.02 },
  both: { tone: { highlights: -100, shadows: 100 }, most: 0.02 },
  'a darker band': { tone: { bands: [{ stop: -1, change: -2 }] }, most: 0.02 },
  'a lighter band': { tone: { bands: [{ stop: -5, change: 2 }] }, most: 0.02 },
  'two bands': {
    tone: {
      bands: [
        { stop: -1, change: 0.5 },
        { stop: -5, change: -2 }
      ]
    },
    most: 0.02
  },
  // Edges whose sides lie in the middles of bands, between two of them, and where a band ends.
  'the band of the light side': { tone: { bands: [{ stop: -2, change: -2 }] }, most: 0.02 },
  'bands between the two sides': {
    tone: {
      bands: [
        { stop: -4, change: 2 },
        { stop: -3, change: -2 }
      ]
    },
    most: 0.02
  },
  'bands up and down': {
    tone: {
      bands: [
        { stop: -1, change: -2 },
        { stop: -2, change: 2 },
        { stop: -5, change: 2 },
        { stop: -6, change: -2 }
      ]
    },
    most: 0.02
  },
  'some local contrast': { tone: { fine: 30, middle: 30, broad: 30 }, most: 0.04 },
  'less local contrast': { tone: { fine: -30, middle: -30, broad: -30 }, most: 0.04 },
  fine: { tone: { fine: 100 }, most: 0.08 },
  'less fine': { tone: { fine: -100 }, most: 0.08 },
  middle: { tone: { middle: 100 }, most: 0.04 },
  'less middle': { tone: { middle: -100 }, most: 0.04 },
  broad: { tone: { broad: 100 }, most: 0.04 },
  'less broad': { tone: { broad: -100 }, most: 0.04 }
};

describe('at an edge of four stops', () => {
  for (const [name, { tone, most }] of Object.entries(EXTREMES))
    it(`${name} draw no halo, full-size or small`, () => {
      for (const reduction of [1, 5]) {
        const values = row(edged, tone, reduction);
        expect(overshoot(values, reduction)).toBeLessThan(most);
        const before = row(edged, {}, reduction);
        // It does something: this is no test of nothing.
        if (!/fine|middle|broad|local/.test(name))
          expect(
            Math.max(...[1100, 1900].map((x) => Math.abs(values[x / reduction] - before[x / reduction])))
          ).toBeGreaterThan(0.02);
      }
    });

  it('draw none at an edge of one stop or two either, wherever among the bands its sides lie', () => {
    const size = { width: 3000, height: 400 };
    for (const [light, dark] of [
      [0.5, 0.25],
      [0.7, 0.35],
      [0.35, 0.125],
      [0.25, 0.0625]
    ]) {
      const source = paint((x): Rgb => {
        const value = x < EDGE ? light : dark;
        return [value, value, value];
      }, size);
      const tones: [Tone, number][] = [
        [{ highlights: -100, shadows: 100 }, 0.02],
        [{ bands: [{ stop: -1, change: -2 }] }, 0.02],
        [{ bands: [{ stop: -2, change: 2 }] }, 0.02],
        [EXTREMES['bands up and down'].tone, 0.02]
      ];
      for (const [tone, most] of tones)
        for (const reduction of [1, 5])
          expect(overshoot(row(source, tone, reduction, size), reduction)).toBeLessThan(most);
    }
  });

  it('leave thin bars their contrast, in full size and in a small picture', () => {
    for (const tone of [
      { highlights: -100, shadows: 100 },
      { bands: [{ stop: -1, change: -2 }] },
      EXTREMES['two bands'].tone
    ])
      for (const [source, reduction, middle] of [
        [edged, 1, [701, 2301]],
        [thick, 1, [710.5, 2310.5]],
        [barred, 5, [701.5, 2301.5].map((x) => x + 6)]
      ] as const) {
        const contrasts = [{}, tone].map((own) => {
          const values = row(source, own, reduction);
          const at = (x: number): number => stops(values[Math.floor(x / reduction)]);
          return [at(650) - at(middle[0]), at(middle[1]) - at(2400)];
        });
        for (const i of [0, 1]) expect(Math.abs(contrasts[1][i] / contrasts[0][i] - 1)).toBeLessThan(0.1);
      }
  });
});

describe('cables in pairs before a sky that grows lighter', () => {
  it('have no band beside nor between them: the sky is what it would be without', () => {
    const size = { width: 3000, height: 2000 };
    const sky = (y: number): number => 0.3 + (0.55 * y) / 2000;
    /** Pixels from the middle of the nearest of four. */
    const away = (x: number, y: number): number =>
      Math.min(...[0, 18, 60, 78].map((down) => Math.abs(y - 700 - down - 0.2 * x)));
    const cable = (x: number, y: number): boolean => away(x, y) < 5;
    const [plain, crossed] = [false, true].map((there) =>
      paint((x, y): Rgb => {
        const value = there && cable(x, y) ? 0.06 : sky(y);
        return [value, value, value];
      }, size)
    );
    for (const tone of [{ highlights: -55 }, { highlights: -100 }]) {
      const column = (source: typeof plain): number[] => {
        const view = { ...wholeView(size), width: 2 };
        const out = rendered(source, inputsFor({ tone }, { size, rendering: 'display' }), view);
        return Array.from({ length: size.height }, (_, y) => stops(out[y * 6] / 65535));
      };
      const [without, beside] = [plain, crossed].map(column);
      const at = 700;
      let worst = 0;
      for (let y = at - 220; y < at + 220; y++)
        if (away(1, y + 0.5) > 9) worst = Math.max(worst, Math.abs(beside[y] - without[y]));
      expect(worst).toBeLessThan(0.04);
      // The cable itself keeps its contrast.
      expect(without[at] - beside[at]).toBeGreaterThan(0.97 * Math.log2(sky(at) / 0.06));
    }
    [plain, crossed].forEach(givePlanesBack);
  });
});

describe('a bar of 21 pixels', () => {
  it('keeps its contrast lying as it does standing, wherever it lies among the cells of the light', () => {
    for (const from of [400, 401, 402, 403]) {
      const lying = paint((_, y): Rgb => {
        const value = y < 1003 !== (y > from && y < from + 21) ? LIGHT : DARK;
        return [value, value, value];
      }, LARGE);
      const contrast = (tone: Tone): number => {
        const view = { ...wholeView(LARGE), left: 0, width: 2 };
        const out = rendered(
          lying,
          inputsFor({ tone: { exposure: -1, ...tone } }, { size: LARGE, rendering: 'display' }),
          view
        );
        const shown = (y: number): number => stops(out[y * 2 * 3] / 65535);
        return shown(from - 50) - shown(from + 10);
      };
      for (const tone of [{ highlights: -100, shadows: 100 }, { bands: [{ stop: -1, change: -2 }] }])
        expect(Math.abs(contrast(tone) / contrast({}) - 1)).toBeLessThan(0.1);
    }
  });
});

describe('a picture made smaller', () => {
  it('draws no line beside an edge, however many stops it has and by whatever it is reduced', () => {
    const size = { width: 1500, height: 300 };
    for (const dark of [LIGHT / 16, LIGHT / 64]) {
      // A roof line that is not quite level, as glass leaves it.
      const roof = paint((x, y) => {
        const share = Math.min(1, Math.max(0, (y - 150 - 0.13 * (x - 750)) / 1.6 + 0.5));
        const value = LIGHT + (dark - LIGHT) * share;
        return [value, value, value];
      }, size);
      for (const reduction of [1.3, 2, 3.75, 5]) {
        const view = wholeView(size, reduction);
        const out = rendered(roof, inputsFor({}, { size, rendering: 'display' }), view);
        let [least, most] = [1, 0];
        for (let i = 0; i < out.length; i += 3) {
          const light = 2 ** stops(out[i] / 65535);
          [least, most] = [Math.min(least, light), Math.max(most, light)];
        }
        expect(least / dark).toBeGreaterThan(0.97);
        expect(most / LIGHT).toBeLessThan(1.03);
      }
    }
  });
});

describe('local contrast', () => {
  /** Pixels of a picture of 2,048 along its longer edge, in pixels of this one. */
  const PIXEL = LARGE.width / 2048;
  const waves = (period: number, stop: number): typeof edged => {
    const crests = Float64Array.from(
      { length: LARGE.width },
      (_, x) => 0.2 * 2 ** (stop * Math.sin((2 * Math.PI * (x + 0.5)) / period))
    );
    return paint((x) => {
      const value = crests[Math.floor(x)];
      return [value, value, value];
    }, LARGE);
  };
  /** How far light and dark are apart, in stops; below 0 where they have changed places. */
  const swing = (source: typeof edged, tone: Tone, period: number): number => {
    const whole = Math.round(Math.floor(2000 / period) * period);
    const values = row(source, tone, 1)
      .slice(500, 500 + whole)
      .map(stops);
    const mean = values.reduce((sum, value) => sum + value, 0) / whole;
    const along = (i: number): number => Math.sin((2 * Math.PI * (i + 500.5)) / period);
    return (4 / whole) * values.reduce((sum, value, i) => sum + (value - mean) * along(i), 0);
  };
  /** A size is half a period: from dark to light. */
  const SIZES = { fine: 4, middle: 18, broad: 90 };

  for (const stop of [0.1, 0.4])
    it(`doubles what is of its size, and leaves other sizes, where light and dark are ${2 * stop} stops apart`, () => {
      for (const [size, pixels] of Object.entries(SIZES)) {
        const period = 2 * pixels * PIXEL;
        const source = waves(period, stop);
        const plain = swing(source, {}, period);
        expect(plain).toBeCloseTo(2 * stop, 1);
        for (const name of ['fine', 'middle', 'broad'] as const) {
          const [whole, some, less] = [100, 30, -100].map(
            (amount) => swing(source, { [name]: amount }, period) / plain
          );
          const what = `${name} on what is ${pixels} pixels large`;
          if (name === size) {
            expect(whole, what).toBeGreaterThan(1.8);
            expect(whole, what).toBeLessThan(2.7);
            expect(some, what).toBeGreaterThan(1.24);
            expect(some, what).toBeLessThan(1.52);
            // What stood out is even, and not turned round to be seen.
            expect(Math.abs(less), what).toBeLessThan(0.4);
          } else {
            expect(whole, what).toBeGreaterThan(0.97);
            expect(whole, what).toBeLessThan(1.1);
            expect(less, what).toBeGreaterThan(0.9);
            expect(less, what).toBeLessThan(1.03);
          }
        }
      }
    });

  it('shines the less beside an edge the more stops it has', () => {
    const size = { width: 3000, height: 400 };
    const rims = [1, 2, 3, 4].map((step) => {
      const source = paint((x): Rgb => {
        const value = x < EDGE ? 0.5 : 0.5 / 2 ** step;
        return [value, value, value];
      }, size);
      const changed = (amount: number): number => {
        const [before, after] = [{}, { fine: amount, middle: amount, broad: amount }].map((tone) =>
          row(source, tone, 1, size).map(stops)
        );
        const sides = [...after.keys()].filter((x) => x > 200 && x < 2800 && Math.abs(x - EDGE) > 6);
        return Math.max(...sides.map((x) => Math.abs(2 ** (after[x] - before[x]) - 1)));
      };
      return [changed(30), changed(100)];
    });
    // At a stop an edge is a texture; at four it is an edge.
    [0.18, 0.2, 0.1, 0.04].forEach((most, i) => expect(rims[i][0]).toBeLessThan(most));
    expect(rims[3][1]).toBeLessThan(0.11);
    expect(rims[3][1]).toBeLessThan(rims[2][1]);
    expect(rims[2][1]).toBeLessThan(rims[1][1]);
  });
});

/** A scene of every size of thing: a sky, a wall with courses, a window, and leaves. */
const scene = (x: number, y: number): Rgb => {
  if (y < 700) return [0.5 + y / 4000, 0.65, 0.9 - y / 5000];
  if (x > 800 && x < 1300 && y > 900 && y < 1500)
    return x % 160 < 14 ? [0.5, 0.5, 0.48] : [0.03, 0.035, 0.04];
  if (x > 2100) {
    const leaf = Math.sin(x / 9) * Math.sin(y / 11) + Math.sin(x / 41 + y / 23);
    return leaf > 0 ? [0.12, 0.2, 0.05] : [0.02, 0.04, 0.015];
  }
  const joint = y % 60 < 8 || (x + (y % 120 < 60 ? 60 : 0)) % 120 < 8;
  return joint ? [0.42, 0.4, 0.36] : [0.26 + 0.03 * Math.sin(x * 0.7), 0.12, 0.08];
};
const ALL: Tone = {
  highlights: -100,
  shadows: 100,
  fine: 40,
  middle: 40,
  broad: 40,
  haze: 60,
  bands: [
    { stop: -1, change: -1 },
    { stop: -4, change: 1 }
  ]
};

describe('a picture', () => {
  const full = paint(scene, LARGE);
  // As glass leaves it: nothing is sharper than two pixels.
  inArena((arena) => {
    const across = addressOf(arena.float32(LARGE.width * LARGE.height + 2 * LARGE.width + 16));
    for (const plane of addresses(full))
      for (let i = 0; i < 3; i++) kernels().boxMean(plane, LARGE.width, LARGE.height, 1, across, plane);
  });
  const toLab = converter('lab65');
  const difference = differenceCiede2000();
  const colour = (out: Uint16Array, i: number) =>
    toLab({
      mode: 'rgb',
      r: out[i * 3] / 65535,
      g: out[i * 3 + 1] / 65535,
      b: out[i * 3 + 2] / 65535
    });

  it('is the same at every size', () => {
    for (const tone of [{ ...ALL, bands: [] }, ALL]) {
      const inputs = inputsFor({ tone }, { size: LARGE });
      // Rendered at full size and then reduced, against rendered small.
      const large = rendered(full, inputs, wholeView(LARGE));
      const small = rendered(full, inputs, wholeView(LARGE, 5));
      const mean = new Uint16Array(small.length);
      const light = Float64Array.from({ length: 65536 }, (_, code) => 2 ** stops(code / 65535));
      const encode = (v: number): number =>
        65535 * (v <= 0.0031308 ? 12.92 * v : 1.055 * v ** (1 / 2.4) - 0.055);
      for (let y = 0; y < 400; y++)
        for (let x = 0; x < 600; x++)
          for (let c = 0; c < 3; c++) {
            let sum = 0;
            for (let v = 0; v < 5; v++)
              for (let u = 0; u < 5; u++) sum += light[large[((y * 5 + v) * 3000 + x * 5 + u) * 3 + c]];
            mean[(y * 600 + x) * 3 + c] = encode(sum / 25);
          }
      const apart = Array.from({ length: 240000 / 41 }, (_, i) =>
        difference(colour(small, i * 41), colour(mean, i * 41))
      ).sort((a, b) => a - b);
      const plain = ((): number[] => {
        const one = rendered(full, inputsFor({}, { size: LARGE }), wholeView(LARGE, 5));
        return Array.from({ length: 240000 / 41 }, (_, i) =>
          difference(colour(small, i * 41), colour(one, i * 41))
        );
      })();
      expect(plain.reduce((sum, value) => sum + value, 0) / plain.length).toBeGreaterThan(4);
      expect(apart.reduce((sum, value) => sum + value, 0) / apart.length).toBeLessThan(0.5);
      expect(apart[Math.floor(apart.length * 0.99)]).toBeLessThan(2);
    }
  });

  it('changes little by the first step of any control, and by any later one', () => {
    const view = wholeView(LARGE, 5);
    const of = (tone: Tone): Uint16Array => rendered(full, inputsFor({ tone }, { size: LARGE }), view);
    const neutral = of({});
    for (const name of ['highlights', 'shadows', 'fine', 'middle', 'broad', 'haze'] as const)
      for (const [from, to] of name === 'haze'
        ? [
            [0, 1],
            [60, 61]
          ]
        : [
            [0, 1],
            [0, -1],
            [-60, -61],
            [99, 100]
          ]) {
        const [one, other] = [from === 0 ? neutral : of({ [name]: from }), of({ [name]: to })];
        let worst = 0;
        for (let i = 0; i < 240000; i += 97)
          worst = Math.max(worst, difference(colour(one, i), colour(other, i)));
        expect(worst, `${name} ${from} to ${to}`).toBeLessThan(0.4);
        expect(worst, `${name} ${from} to ${to}`).toBeGreaterThan(0);
      }
  });

  it('keeps its tones when it is cropped and trued', () => {
    const tone: Tone = { ...ALL, haze: 0 };
    // The middle of the frame stays where it is when only the roll changes.
    const at = (recipe: Parameters<typeof inputsFor>[0]): number[] => {
      const view = { ...wholeView(LARGE), left: 0, top: 0, width: 2, height: 2 };
      return [...rendered(full, inputsFor({ ...recipe, tone }, { size: LARGE }), view).slice(0, 3)];
    };
    const plain = at({});
    const turned = at({ lines: { roll: 3 } });
    turned.forEach((value, c) => expect(Math.abs(value - plain[c])).toBeLessThan(700));
  });

  it('counts corners by the light that they have without the lens', () => {
    // Ten stops of settings, a frame with falloff that is made good, and the same without any.
    const tone: Tone = { highlights: -80, shadows: 60, middle: 40 };
    const auto = completeProfile({
      id: 'dark',
      maker: 'Fenwright',
      lens: 'Fenwright 24 mm',
      sensorHalfDiagonal: Math.hypot(36, 24) / 2,
      falloff: [{ focalLength: 24, aperture: 0, terms: [-0.6] }]
    } as never);
    const unit = Math.hypot(1500, 1000);
    const darkened = paint((x, y) => {
      const share = 1 - (0.6 * ((x - 1500) ** 2 + (y - 1000) ** 2)) / unit ** 2;
      const i = Math.floor(y) * LARGE.width + Math.floor(x);
      return [full.r[i] * share, full.g[i] * share, full.b[i] * share];
    }, LARGE);
    const whole = wholeView(LARGE);
    const [left, top] = [-whole.left - 420 * whole.pixel, -whole.top - 320 * whole.pixel];
    const view = { ...whole, left, top, width: 400, height: 300 };
    const clear = rendered(full, inputsFor({ tone }, { size: LARGE }), view);
    const made = rendered(darkened, inputsFor({ tone }, { size: LARGE }, { auto, known: [auto] }), view);
    let worst = 0;
    for (let i = 0; i < clear.length; i += 3 * 37)
      worst = Math.max(worst, difference(colour(clear, i / 3), colour(made, i / 3)));
    expect(worst).toBeLessThan(1.5);
  });
});

describe('haze', () => {
  const AIR: Rgb = [0.55, 0.62, 0.7];
  /** Shares of air over what is seen, from afar to near, from row to row. */
  const VEILS = [0.8, 0.65, 0.35, 0];
  const clear = (x: number): number => (x % 200 < 100 ? 0.03 : 0.3);
  /** A sky with a roof before it, and below it stripes under more and less air. */
  const view = (sky: Rgb): typeof edged =>
    paint((x, y): Rgb => {
      if (y < 700) return x > 1200 && x < 2200 && y > 350 ? [0.06, 0.05, 0.045] : sky;
      const veil = VEILS[Math.min(3, Math.floor((y - 700) / 300))];
      return AIR.map((value) => clear(x) * (1 - veil) + value * veil) as unknown as Rgb;
    }, LARGE);
  const lightAt = (
    source: typeof edged,
    tone: Tone,
    x: number,
    y: number,
    width: number,
    height: number
  ): number[] => {
    const whole = wholeView(LARGE);
    const [left, top] = [whole.left + x * whole.pixel, whole.top + y * whole.pixel];
    const out = rendered(source, inputsFor({ tone }, { size: LARGE, rendering: 'display' }), {
      ...whole,
      left,
      top,
      width,
      height
    });
    return Array.from({ length: width * height }, (_, i) => 2 ** stops(out[i * 3 + 1] / 65535));
  };
  const SKIES: Record<string, Rgb> = {
    'as the air is': AIR,
    lighter: [0.72, 0.78, 0.85],
    bluer: [0.32, 0.46, 0.74],
    darker: [0.36, 0.42, 0.5]
  };

  for (const [name, sky] of Object.entries(SKIES))
    it(`leaves no rim in a sky about a roof, and the sky as it is: ${name}`, () => {
      const source = view(sky);
      for (const [tone, most] of [
        [{ haze: 60 }, 0.02],
        [{ haze: 100 }, 0.04],
        [{ haze: 100, hazeDepth: 100 }, 0.04]
      ] as const)
        for (const [x, y, width, height] of [
          [1700, 60, 1, 288],
          [900, 500, 298, 1],
          [2204, 400, 300, 1]
        ] as const) {
          const [before, after] = [{}, tone].map((each) => lightAt(source, each, x, y, width, height));
          const changes = after.map((value, i) => value / before[i]);
          for (const change of changes) expect(Math.abs(change - 1)).toBeLessThan(most);
        }
    });

  it('is cleared to what is behind it, near and far, and nothing becomes black', () => {
    const source = view(AIR);
    VEILS.forEach((veil, i) => {
      const y = 850 + 300 * i;
      for (const tone of [{ haze: 100 }, { haze: 100, hazeDepth: 100 }])
        for (const [x, truth] of [
          [250, 0.03],
          [350, 0.3]
        ])
          expect(Math.abs(Math.log2(lightAt(source, tone, x, y, 1, 1)[0] / truth)), `${veil}`).toBeLessThan(
            0.3
          );
      // Half of it leaves about half of the veil.
      const [dark] = lightAt(source, { haze: 50 }, 250, y, 1, 1);
      if (veil > 0) {
        const [before] = lightAt(source, {}, 250, y, 1, 1);
        expect(dark).toBeLessThan(before * 0.9);
        expect(dark).toBeGreaterThan(0.03);
      }
    });
    for (const light of lightAt(source, { haze: 100, hazeDepth: 100 }, 1000, 1000, 100, 900))
      expect(light).toBeGreaterThan(0.005);
  });

  it('is left near by where only the farthest is meant', () => {
    const source = view(AIR);
    const far = { haze: 100, hazeDepth: 0 };
    for (const y of [1450, 1750])
      expect(lightAt(source, far, 250, y, 1, 1)[0] / lightAt(source, {}, 250, y, 1, 1)[0]).toBeCloseTo(1, 2);
    expect(lightAt(source, far, 250, 850, 1, 1)[0]).toBeLessThan(
      0.9 * lightAt(source, {}, 250, 850, 1, 1)[0]
    );
  });
});

import { converter, differenceCiede2000 } from 'culori';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { type Rgb, inputsFor, paint, rendered } from '../../render/painted-frame.ts';
import { srgbEncode } from '../../colour/srgb-transfer.ts';
import { FILTERS } from './filters.ts';
import { hueChange, hueNodes } from './hues.ts';
import type { ColourSettings } from './step.ts';
import { suggestCast } from './suggest-cast.ts';
import { SRGB_TO_REC2020 } from '../../colour/primaries.ts';
import { IDENTITY } from '../../math/matrix3.ts';
import { zoneWeights } from './zones.ts';

const toOklab = converter('oklab');
const fromOklab = converter('lrgb');
const difference = differenceCiede2000();
type Oklch = { l: number; c: number; h: number };

/** Linear sRGB of a lightness, chroma and hue, by an independent library. */
function linear({ l, c, h }: Oklch): Rgb {
  const angle = (h * Math.PI) / 180;
  const { r, g, b } = fromOklab({ mode: 'oklab', l, a: c * Math.cos(angle), b: c * Math.sin(angle) });
  return [r, g, b];
}

/** What the Colour step makes of some colours, as encoded 0..1. */
function graded(colours: readonly Rgb[], colour: Partial<ColourSettings>): Rgb[] {
  const source = paint((x) => colours[Math.min(colours.length - 1, Math.floor((x * colours.length) / 600))]);
  const inputs = inputsFor({ colour }, { rendering: 'display' });
  const out = rendered(source, inputs);
  return colours.map((_, i) => {
    const at = (200 * 600 + Math.floor(((i + 0.5) * 600) / colours.length)) * 3;
    return [0, 1, 2].map((c) => out[at + c] / 65535) as unknown as Rgb;
  });
}
const lch = ([r, g, b]: Rgb): Oklch => {
  const { l, a, b: bb } = toOklab({ mode: 'rgb', r, g, b });
  return { l, c: Math.hypot(a, bb), h: ((Math.atan2(bb, a) * 180) / Math.PI + 360) % 360 };
};
const encoded = (colour: Rgb): Rgb => colour.map((value) => srgbEncode(Math.max(0, value))) as unknown as Rgb;
const apart = (one: Rgb, other: Rgb): number =>
  difference(
    { mode: 'rgb', r: one[0], g: one[1], b: one[2] },
    { mode: 'rgb', r: other[0], g: other[1], b: other[2] }
  );

describe('hues', () => {
  const wheel = Array.from({ length: 24 }, (_, i): Oklch => ({ l: 0.65, c: 0.1, h: i * 15 }));
  const nodes = [{ at: 210, hue: 20, chroma: 50, light: -40 }];

  it('turn, strengthen and lighten what lies about a node, by what it says', () => {
    const [out] = graded([linear({ l: 0.65, c: 0.1, h: 210 })], {
      hues: [{ at: 210, hue: 20, chroma: -40, light: -40 }]
    });
    const { l, c, h } = lch(out);
    expect(h).toBeCloseTo(230, 0);
    expect(c).toBeCloseTo(0.06, 2);
    expect(l).toBeCloseTo(0.65 - 0.1, 2);
  });

  it('leave what lies sixty degrees away, and greys', () => {
    const before = wheel.map(linear);
    const after = graded(before, { hues: nodes });
    wheel.forEach(({ h }, i) => {
      const away = Math.abs(((h - 210 + 540) % 360) - 180);
      if (away >= 60) expect(apart(after[i], encoded(before[i]))).toBeLessThan(0.3);
      if (away <= 15) expect(apart(after[i], encoded(before[i]))).toBeGreaterThan(5);
    });
    const greys = [0.02, 0.2, 0.7].map((value): Rgb => [value, value, value]);
    graded(greys, { hues: nodes }).forEach((out, i) =>
      expect(apart(out, encoded(greys[i]))).toBeLessThan(0.1)
    );
  });

  it('reach forty-five degrees and no farther, and less where another node is nearer', () => {
    const one = hueChange([{ at: 100, hue: 0, chroma: 100, light: 0 }]);
    for (const [hue, chroma] of [
      [100, 100],
      [122.5, 50],
      [77.5, 50],
      [145, 0],
      [55, 0],
      [150, 0],
      [280, 0]
    ])
      expect(one(hue).chroma, String(hue)).toBeCloseTo(chroma, 6);
    expect(one(143).chroma).toBeGreaterThan(0);
    const two = hueChange([
      { at: 100, hue: 0, chroma: 100, light: 0 },
      { at: 120, hue: 0, chroma: 0, light: 0 }
    ]);
    expect(two(110).chroma).toBeCloseTo(50, 6);
    expect(two(121).chroma).toBeCloseTo(0, 6);
  });

  it('are smooth over the whole turn, and the same at both its ends', () => {
    const hues = [
      { at: 350, hue: 30, chroma: -60, light: 20 },
      { at: 20, hue: -10, chroma: 40, light: 0 },
      { at: 120, hue: -45, chroma: 100, light: -100 }
    ];
    const change = hueChange(hues);
    let before = change(0);
    for (let h = 0.25; h <= 360; h += 0.25) {
      const now = change(h);
      for (const name of ['hue', 'chroma', 'light'] as const)
        expect(Math.abs(now[name] - before[name])).toBeLessThan(1.8);
      before = now;
    }
    expect(before).toEqual(change(0));
  });

  it('hold at each node what it says, wherever the others are', () => {
    const node = fc.record({
      at: fc.double({ min: 0, max: 360, noNaN: true }),
      hue: fc.integer({ min: -60, max: 60 }),
      chroma: fc.integer({ min: -100, max: 100 }),
      light: fc.integer({ min: -100, max: 100 })
    });
    fc.assert(
      fc.property(fc.array(node, { maxLength: 8 }), (all) => {
        const change = hueChange(all);
        for (const { at, hue, chroma, light } of hueNodes(all)) {
          const held = change(at);
          expect(held.hue).toBeCloseTo(hue, 6);
          expect(held.chroma).toBeCloseTo(chroma, 6);
          expect(held.light).toBeCloseTo(light, 6);
        }
      })
    );
  });
});

describe('zones', () => {
  it('share every lightness among them, wherever they meet', () => {
    const percent = fc.integer({ min: -100, max: 100 });
    fc.assert(
      fc.property(fc.double({ min: 0, max: 1, noNaN: true }), percent, percent, (light, balance, blend) => {
        const weights = zoneWeights(light, balance, Math.abs(blend));
        expect(weights[0] + weights[1] + weights[2]).toBeCloseTo(1, 9);
        for (const weight of weights) expect(weight).toBeGreaterThanOrEqual(0);
      })
    );
    expect(zoneWeights(0)[0]).toBe(1);
    expect(zoneWeights(1)[2]).toBe(1);
    expect(zoneWeights(0.56)[1]).toBeGreaterThan(0.6);
    expect(zoneWeights(0.7, 100)[2]).toBeGreaterThan(zoneWeights(0.7, -100)[2] + 0.2);
  });

  it('colour, lighten and strengthen the tones that are theirs', () => {
    const zone = { hue: 250, chroma: 50, light: 0, saturation: 0 };
    const greys = [0.25, 0.56, 0.9].map((l) => linear({ l, c: 0, h: 0 }));
    const [dark, middle, light] = graded(greys, { zoneShadows: zone }).map(lch);
    expect(dark.c).toBeCloseTo(0.06, 2);
    expect(dark.h).toBeCloseTo(250, 0);
    expect(middle.c).toBeLessThan(0.02);
    expect(light.c).toBeLessThan(0.002);
    const all = graded(greys, { zoneAll: { ...zone, hue: 40 } }).map(lch);
    for (const { c } of all) expect(c).toBeCloseTo(0.06, 2);
    expect(graded(greys, { zoneAll: { ...zone, hue: 40 }, zonesAmount: 0 }).map(lch)[1].c).toBeLessThan(
      0.002
    );
    const lifted = graded(greys, { zoneHighlights: { ...zone, chroma: 0, light: 100 } }).map(lch);
    expect(lifted[0].l).toBeCloseTo(0.25, 2);
    expect(lifted[2].l).toBeGreaterThan(0.93);
    const [grey] = graded([linear({ l: 0.9, c: 0.05, h: 120 })], {
      zoneHighlights: { ...zone, chroma: 0, saturation: -100 }
    }).map(lch);
    expect(grey.c).toBeLessThan(0.004);
  });
});

describe('the ends of zones', () => {
  it('have no colour added to black, and casts by zones of their own, wherever those for colour meet', () => {
    const strong = { hue: 250, chroma: 100, light: 100, saturation: 0 };
    const [black] = graded([[0, 0, 0]], { zoneShadows: strong, zoneAll: strong });
    expect(Math.max(...black)).toBeLessThan(0.002);
    const castFound = {
      shadows: { a: 0.02, b: 0 },
      middle: { a: 0, b: 0.02 },
      highlights: { a: 0, b: -0.02 }
    };
    const greys = [0.02, 0.1, 0.2, 0.3, 0.5, 0.8].map((value): Rgb => [value, value, value]);
    const plain = graded(greys, { cast: 100, castFound });
    const moved = graded(greys, { cast: 100, castFound, zonesMeet: 100, zonesBlend: 0 });
    plain.forEach((colour, i) => expect(apart(colour, moved[i])).toBeLessThan(0.01));
    expect(apart(plain[2], encoded(greys[2]))).toBeGreaterThan(1);
  });
});

describe('casts', () => {
  it('are told by what is near to grey, not by what is nearly a colour', () => {
    // Three in five places are of one pale colour, two nearly grey, all of one lightness.
    const count = 5000;
    const paint = (i: number): Rgb =>
      i % 5 < 3 ? linear({ l: 0.56, c: 0.08, h: 0 }) : linear({ l: 0.56, c: 0.01, h: 0 });
    const colours = [0, 1, 2].map((c) => Float32Array.from({ length: count }, (_, i) => paint(i)[c]));
    const { middle } = suggestCast({ colours: colours as never }, SRGB_TO_REC2020);
    // By hand: weights of (1 - (0.08 / 0.09)²)² and (1 - (0.01 / 0.09)²)².
    const [strong, weak] = [0.0441, 0.9755];
    const wanted = (0.6 * strong * 0.08 + 0.4 * weak * 0.01) / (0.6 * strong + 0.4 * weak);
    expect(middle.a).toBeCloseTo(wanted, 3);
  });

  it('that lie on greys by zones are found and taken away, and colours stay', () => {
    const tinted = [
      { l: 0.25, c: 0.03, h: 250 },
      { l: 0.56, c: 0.02, h: 130 },
      { l: 0.92, c: 0.025, h: 80 }
    ];
    const planes = [0, 1, 2].map(() => new Float32Array(3000));
    // The working space here is sRGB's own: the frame's colours are told by the matrix.
    for (let i = 0; i < 3000; i++) {
      const colour = i % 10 === 0 ? linear({ l: 0.5, c: 0.2, h: 30 }) : linear(tinted[i % 3]);
      colour.forEach((value, c) => (planes[c][i] = value));
    }
    const toWorking = [
      0.6274039, 0.329283, 0.0433131, 0.0690973, 0.9195404, 0.0113623, 0.0163914, 0.0880133, 0.8955953
    ] as never;
    const colours = planes as unknown as [Float32Array, Float32Array, Float32Array];
    const castFound = suggestCast({ colours }, toWorking);
    const before = tinted.map(linear);
    const after = graded(before, { cast: 100, castFound }).map(lch);
    after.forEach(({ c }, i) => expect(c).toBeLessThan(tinted[i].c / 3));
    const half = graded(before, { cast: 50, castFound }).map(lch);
    half.forEach(({ c }, i) => expect(c).toBeLessThan(tinted[i].c * 0.75));
    expect(suggestCast({ colours: planes.map((p) => p.fill(0)) as never }, IDENTITY).middle).toEqual({
      a: 0,
      b: 0
    });
  });
});

describe('primaries', () => {
  it('leave greys, and move each its own colour', () => {
    const settings = { redHue: 60, redSaturation: -30, greenHue: -40, blueSaturation: 50 };
    const greys = [0.05, 0.4, 0.9].map((value): Rgb => [value, value, value]);
    graded(greys, settings).forEach((out, i) => expect(apart(out, encoded(greys[i]))).toBeLessThan(0.05));
    const red: Rgb = [0.4, 0.08, 0.08];
    const hue = (colour: Partial<ColourSettings>): number => (lch(graded([red], colour)[0]).h + 180) % 360;
    expect(hue({ redHue: 80 })).toBeGreaterThan(hue({}) + 5);
    expect(hue({ redHue: -80 })).toBeLessThan(hue({}) - 5);
    const chroma = (colour: Partial<ColourSettings>): number => lch(graded([red], colour)[0]).c;
    expect(chroma({ redSaturation: 60 })).toBeGreaterThan(chroma({}) * 1.1);
    // Another primary barely touches it.
    expect(apart(graded([red], { blueSaturation: 60 })[0], encoded(red))).toBeLessThan(
      apart(graded([red], { redSaturation: 60 })[0], encoded(red)) / 2
    );
  });
});

describe('black and white', () => {
  const colours: Rgb[] = [
    [0.5, 0.1, 0.05],
    [0.1, 0.4, 0.1],
    [0.05, 0.15, 0.6],
    [0.3, 0.3, 0.3]
  ];

  it('is made of red, green and blue light by the weights of each filter', () => {
    for (const [monoRed, monoGreen, monoBlue] of Object.values(FILTERS)) {
      const out = graded(colours, { mono: true, monoRed, monoGreen, monoBlue });
      out.forEach(([r, g, b], i) => {
        const [red, green, blue] = colours[i];
        const grey = srgbEncode((monoRed * red + monoGreen * green + monoBlue * blue) / 100);
        for (const value of [r, g, b]) expect(value).toBeCloseTo(grey, 3);
      });
    }
  });

  it('is darkened by hue, toned by zones, and gone when it is switched off', () => {
    const sky = linear({ l: 0.7, c: 0.1, h: 240 });
    const plain = graded([sky], { mono: true })[0][0];
    const dark = graded([sky], { mono: true, hues: [{ at: 240, hue: 0, chroma: 0, light: -100 }] })[0];
    expect(dark[0]).toBeLessThan(plain - 0.15);
    expect(dark[0]).toBeCloseTo(dark[2], 3);
    const zoneAll = { hue: 70, chroma: 35, light: 0, saturation: 0 };
    const sepia = lch(graded([sky], { mono: true, zoneAll })[0]);
    expect(sepia.h).toBeCloseTo(70, 0);
    expect(sepia.c).toBeCloseTo(0.042, 2);
    expect(apart(graded([sky], { mono: true, enabled: false })[0], encoded(sky))).toBeLessThan(0.02);
  });
});

describe('the strength of a family of hues', () => {
  const at = (h: number, l = 0.6, c = 0.09): Rgb => linear({ l, c, h });
  const strengths = (hues: number[], colour: Partial<ColourSettings>): number[] => {
    const colours = hues.map((h) => at(h));
    const [plain, changed] = [graded(colours, {}), graded(colours, colour)];
    return hues.map((_, i) => lch(changed[i]).c / lch(plain[i]).c);
  };
  it('is that of skies, or of warm colours, and of none besides, and leaves their hue', () => {
    const hues = [20, 40, 62, 90, 130, 160, 235, 250, 262, 310];
    const sky = strengths(hues, { skyStrength: 50 });
    const warm = strengths(hues, { warmStrength: 50 });
    for (const [i, h] of hues.entries()) {
      const [inSky, inWarm] = [h >= 230 && h <= 265, h >= 32 && h <= 92];
      expect(sky[i], `sky ${h}`)[inSky ? 'toBeGreaterThan' : 'toBeLessThan'](inSky ? 1.25 : 1.03);
      expect(warm[i], `warm ${h}`)[inWarm ? 'toBeGreaterThan' : 'toBeLessThan'](
        inWarm ? 1.25 : h === 20 ? 1.25 : 1.03
      );
    }
    const [before, after] = [{}, { skyStrength: 80 }].map((colour) => lch(graded([at(250)], colour)[0]));
    expect(Math.abs(after.h - before.h)).toBeLessThan(1);
    expect(after.l).toBeLessThan(before.l - 0.02);
    // Taken away, little is left of it; the smallest step is a small one.
    expect(strengths([250], { skyStrength: -100 })[0]).toBeLessThan(0.4);
    expect(strengths([60], { warmStrength: 1 })[0]).toBeCloseTo(1.007, 2);
  });
  it('adds to what nodes do to the same hue', () => {
    const hues = [{ at: 250, hue: 20, chroma: 0, light: 0 }];
    const [both, node] = [{ hues, skyStrength: 40 }, { hues }].map((colour) =>
      lch(graded([at(250)], colour)[0])
    );
    expect(both.h).toBeCloseTo(node.h, 0);
    expect(both.c / node.c).toBeCloseTo(1.28, 1);
  });
});

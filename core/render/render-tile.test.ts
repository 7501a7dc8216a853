/** Pictures as they come out of all stages, against truth reckoned here by itself. */
import { SRGB_TO_REC2020 } from '../colour/primaries.ts';
import { IDENTITY } from '../math/matrix3.ts';
import { converter } from 'culori';
import { describe, expect, it } from 'vitest';
import type { FrameFacts } from '../optics/frame-facts.ts';
import { type LensChoice, NO_CHOICE } from '../steps/lens/frame-optics.ts';
import type { LensProfile } from '../optics/profile.ts';
import { completeProfile } from '../optics/profile.ts';
import { halfDiagonal } from '../math/frame-geometry.ts';
import type { PartialRecipe } from '../recipe/recipe.ts';
import { packRgb, packRgba8 } from '../picture/output/pack-pixels.ts';
import type { View } from '../picture/tile/mesh.ts';
import { SIZE, inputsFor, paint, rendered, wholeView } from './painted-frame.ts';
import { type TileCache, neighbourhoodKey, renderTile } from './render-tile.ts';
import { balanceFor } from '../steps/colour/white-balance.ts';

const UNIT = halfDiagonal(SIZE);
const WHOLE = wholeView();

const plain = (light: number): number => (light ** 1.15 * (1 + 0.8 ** 1.15)) / (light ** 1.15 + 0.8 ** 1.15);
const pixel = (out: Uint16Array, x: number, y: number, width = SIZE.width): number[] =>
  [0, 1, 2].map((c) => out[(y * width + x) * 3 + c] / 65535);

const profileOf = (figures: Partial<LensProfile>): LensChoice => {
  const auto = completeProfile({
    id: 'made-up',
    maker: 'Fenwright',
    lens: 'Fenwright 24 mm',
    sensorHalfDiagonal: Math.hypot(36, 24) / 2,
    ...figures
  });
  return { auto, known: [auto] };
};

describe('tone and colours', () => {
  /** Photoreceptor response after Naka & Rushton: n = 1.15, half saturation 0.8, scaled to keep 1. */

  it('of a raw file follow the plain rendering, absolutely', () => {
    for (const light of [0.001, 0.01, 0.05, 0.18, 0.4, 0.7, 0.95]) {
      const out = rendered(
        paint(() => [light, light, light]),
        inputsFor()
      );
      const displayed = plain(light);
      const encoded = displayed <= 0.0031308 ? 12.92 * displayed : 1.055 * displayed ** (1 / 2.4) - 0.055;
      for (const value of pixel(out, 300, 200)) expect(value).toBeCloseTo(encoded, 4);
    }
  });

  it('of a finished picture leave as they came, in every space as an independent library has them', () => {
    const modes = { srgb: 'rgb', 'display-p3': 'p3', oprgb: 'a98', rec2020: 'rec2020' } as const;
    const light = { mode: 'lrgb' as const, r: 0.6, g: 0.25, b: 0.08 };
    for (const space of ['srgb', 'display-p3', 'oprgb', 'rec2020'] as const) {
      const inputs = inputsFor({}, { rendering: 'display' }, NO_CHOICE, { space });
      const out = rendered(
        paint(() => [light.r, light.g, light.b]),
        inputs
      );
      const wanted = converter(modes[space])(light);
      pixel(out, 100, 100).forEach((value, c) =>
        expect(value).toBeCloseTo([wanted.r, wanted.g, wanted.b][c], 3)
      );
    }
  });

  it('take the file’s own colours through its matrix, each row to its own place', () => {
    const toWorking: FrameFacts['toWorking'] = [0.9, 0.1, 0, 0.05, 0.8, 0.15, 0, 0.3, 0.7];
    const facts = { rendering: 'display' as const, toWorking };
    const out = rendered(
      paint(() => [0.5, 0.3, 0.2]),
      inputsFor({}, facts, NO_CHOICE, { space: 'rec2020' })
    );
    // BT.2020's own curve, at full precision.
    const encoded = (linear: number): number => 1.09929682680944 * linear ** 0.45 - 0.09929682680944;
    const wanted = [0.45 + 0.03, 0.025 + 0.24 + 0.03, 0.09 + 0.14].map(encoded);
    pixel(out, 50, 50).forEach((value, c) => expect(value).toBeCloseTo(wanted[c], 3));
  });

  it('end in white above white: no colour of what clips last is left', () => {
    const out = rendered(
      paint((x) => [1 + x / 300, 1 + x / 400, 1 + x / 350]),
      inputsFor()
    );
    for (let x = 10; x < 590; x += 20)
      for (const value of pixel(out, x, 200)) expect(value).toBeGreaterThan(0.98);
    for (const value of pixel(out, 590, 200)) expect(value).toBeCloseTo(1, 2);
  });
});

describe('tone', () => {
  const encode = (linear: number): number =>
    linear <= 0.0031308 ? 12.92 * linear : 1.055 * linear ** (1 / 2.4) - 0.055;
  const shown = (light: [number, number, number], tone: object, facts: object = {}): number[] =>
    pixel(
      rendered(
        paint(() => light),
        inputsFor({ tone }, facts)
      ),
      300,
      200
    );

  it('that is neutral, or switched off, changes no value at all', () => {
    const source = paint((x, y) => [x / 500, (x + y) / 900, y / 350]);
    for (const facts of [{}, { rendering: 'display' as const }]) {
      const without = rendered(source, inputsFor({}, facts));
      for (const tone of [
        { exposure: 0, curve: [] },
        { enabled: false, exposure: 2, contrast: 50 }
      ]) {
        // Said by one number: comparing half a million one by one takes ten seconds.
        const out = rendered(source, inputsFor({ tone }, facts));
        expect(out.findIndex((code, i) => code !== without[i])).toBe(-1);
      }
    }
  });

  it('exposes before the rendering, and brings back what lay above white', () => {
    for (const value of shown([0.1, 0.1, 0.1], { exposure: 1 }))
      expect(value).toBeCloseTo(encode(plain(0.2)), 3);
    for (const value of shown([1.8, 1.8, 1.8], { exposure: -1 }))
      expect(value).toBeCloseTo(encode(plain(0.9)), 3);
    // Two stops above white, recovered, are white; one stop above lies between the knee and it.
    for (const value of shown([3.999, 3.999, 3.999], { recovery: 100 })) expect(value).toBeCloseTo(1, 3);
    const between = 2 * 2 ** (-2 * (2 / 3) ** 1.4);
    for (const value of shown([2, 2, 2], { recovery: 100 }))
      expect(value).toBeCloseTo(encode(plain(between)), 3);
  });

  it('leaves finished pictures without a base curve', () => {
    const facts = { rendering: 'display' as const };
    for (const value of shown([0.1, 0.1, 0.1], { exposure: 2 }, facts))
      expect(value).toBeCloseTo(encode(0.4), 3);
  });

  it('keeps the ratios of colours, and lets them fade to white without turning', () => {
    const facts = { rendering: 'display' as const };
    const linear = (value: number): number =>
      value <= 0.04045 ? value / 12.92 : ((value + 0.055) / 1.055) ** 2.4;
    const colour = shown([0.2, 0.1, 0.05], { exposure: 1, contrast: 40, midtones: 20 }, facts).map(linear);
    expect(colour[0] / colour[1]).toBeCloseTo(2, 2);
    expect(colour[1] / colour[2]).toBeCloseTo(2, 1);
    // Light of a lamp beyond white: its hue stays, its saturation goes, and in the end it is white.
    const lamp = shown([0.8, 0.5, 0.2], { exposure: 0.8 }, facts);
    const oklch = converter('oklch');
    const hue = (colour: readonly number[], mode: 'rgb' | 'lrgb'): number =>
      oklch({ mode, r: colour[0], g: colour[1], b: colour[2] }).h!;
    expect(lamp[0]).toBeCloseTo(1, 2);
    expect(hue(lamp, 'rgb')).toBeCloseTo(hue([0.8, 0.5, 0.2], 'lrgb'), 0);
    for (const value of shown([0.8, 0.5, 0.2], { exposure: 3 }, facts)) expect(value).toBeCloseTo(1, 3);
  });

  it('curves luminance, all colours, or each by itself', () => {
    const facts = { rendering: 'display' as const };
    const half = [{ x: 0.5, y: 0.25 }];
    const at = (name: string): number[] => {
      const grey = ((0.5 + 0.055) / 1.055) ** 2.4;
      return shown([grey, grey, grey], { [name]: half }, facts);
    };
    const wanted = {
      curve: [0.25, 0.25, 0.25],
      curveAll: [0.25, 0.25, 0.25],
      curveRed: [0.25, 0.5, 0.5],
      curveGreen: [0.5, 0.25, 0.5],
      curveBlue: [0.5, 0.5, 0.25]
    };
    for (const [name, colours] of Object.entries(wanted))
      at(name).forEach((value, c) => expect(value, name).toBeCloseTo(colours[c], 2));
  });

  it('curves a colour by its own after the curve of all', () => {
    const facts = { rendering: 'display' as const };
    const grey = ((0.5 + 0.055) / 1.055) ** 2.4;
    const curves = { curveAll: [{ x: 0.5, y: 0.25 }], curveRed: [{ x: 0.25, y: 0.6 }] };
    const [red, green] = shown([grey, grey, grey], curves, facts);
    expect(green).toBeCloseTo(0.25, 2);
    expect(red).toBeCloseTo(0.6, 2);
  });

  it('curves lightness alone: hue stays, and chroma narrows only towards the ends', () => {
    const facts = { rendering: 'display' as const, toWorking: SRGB_TO_REC2020 };
    const [toLinear, oklch] = [converter('lrgb'), converter('oklch')];
    const bent = (h: number, y: number): { l: number; c: number; h?: number } => {
      const { r, g, b } = toLinear({ mode: 'oklch', l: 0.5, c: 0.08, h });
      const source = paint(() => [r, g, b]);
      const out = rendered(source, inputsFor({ tone: { curveLightness: [{ x: 0.5, y }] } }, facts));
      const [red, green, blue] = pixel(out, 100, 100);
      return oklch({ mode: 'rgb', r: red, g: green, b: blue });
    };
    for (const h of [30, 120, 210, 300])
      for (const [y, left] of [
        [0.35, 0.7],
        [0.7, Math.sqrt(0.6)],
        [0.5, 1]
      ]) {
        const found = bent(h, y);
        expect(found.l).toBeCloseTo(y, 3);
        expect(found.c).toBeCloseTo(0.08 * left, 3);
        expect(found.h).toBeCloseTo(h, 0);
      }
  });
});

describe('white balance', () => {
  it('makes the picked place grey and keeps black and the rest of the light, before the rendering', () => {
    const cast: [number, number, number] = [0.42, 0.36, 0.24];
    const facts = { rendering: 'display' as const, toWorking: IDENTITY };
    const { warmth, tint, reached } = balanceFor(cast);
    expect(reached).toBe(true);
    const source = paint((x) => (x < 300 ? cast : [0, 0, 0]));
    const out = rendered(source, inputsFor({ colour: { warmth, tint } }, facts));
    const [r, g, b] = pixel(out, 100, 100);
    expect(r).toBeCloseTo(g, 3);
    expect(b).toBeCloseTo(g, 3);
    expect(g).toBeGreaterThan(0.5);
    expect(pixel(out, 500, 100)).toEqual([0, 0, 0]);
    const plainOut = rendered(source, inputsFor({}, facts));
    expect(pixel(plainOut, 100, 100)[0] - pixel(plainOut, 100, 100)[2]).toBeGreaterThan(0.1);
  });
});

describe('the strength of colours', () => {
  const facts = { rendering: 'display' as const, toWorking: SRGB_TO_REC2020 };
  const oklch = converter('oklch');
  /** Lightness, chroma and hue of what is shown, as an independent library has them. */
  function shown(colour: string, settings: object): { l: number; c: number; h?: number } {
    const { r, g, b } = converter('lrgb')(colour)!;
    const out = rendered(
      paint(() => [r, g, b]),
      inputsFor({ colour: settings }, facts)
    );
    const [red, green, blue] = pixel(out, 100, 100);
    return oklch({ mode: 'rgb', r: red, g: green, b: blue });
  }
  const before = (colour: string): { l: number; c: number; h?: number } => oklch(colour)!;

  it('scales chroma and keeps lightness and hue', () => {
    for (const colour of ['#7a9fc4', '#b58a6a', '#6f9a62', '#9f7fb0']) {
      const [was, now] = [before(colour), shown(colour, { saturation: 30 })];
      expect(now.l).toBeCloseTo(was.l, 2);
      expect(now.c / was.c).toBeCloseTo(1.3, 1);
      expect(now.h).toBeCloseTo(was.h!, 0);
      expect(shown(colour, { saturation: -100 }).c).toBeLessThan(0.002);
    }
  });

  it('gives more to what is pale, nothing to what is vivid, and little to skin and brick', () => {
    const gain = (colour: string): number => shown(colour, { vibrance: 100 }).c / before(colour).c;
    const pale = gain('#8f9aa5');
    expect(pale).toBeGreaterThan(1.8);
    expect(gain('#5f8fc0')).toBeLessThan(pale - 0.2);
    expect(gain('#1f4fff')).toBeCloseTo(1, 1);
    const [brick, leaf] = ['#b59a86', '#95a786'].map(gain);
    expect(brick).toBeLessThan(leaf - 0.25);
    expect(gain('#808080')).not.toBeGreaterThan(5);
    expect(shown('#808080', { vibrance: 100 }).c).toBeLessThan(0.002);
  });
});

describe('places of the colours', () => {
  const shifted = profileOf({ lateral: [{ focalLength: 24, red: [0.004], blue: [-0.006] }] });
  /** An edge far out, steep and upright, that red and blue show where the lens put them. */
  const EDGE = 540;
  const edgeAt = (x: number, edge: number): number => 0.2 + 0.5 / (1 + Math.exp(-(x - edge) / 1.2));
  const placeOf = (size: number): number => 300 + (EDGE - 300) * (1 + size);
  const source = paint((x) => [edgeAt(x, placeOf(0.004)), edgeAt(x, EDGE), edgeAt(x, placeOf(-0.006))]);
  /** Where a colour passes the middle between dark and light. */
  function crossing(out: Uint16Array, colour: number): number {
    const value = (x: number): number => pixel(out, x, 200)[colour];
    const middle = (value(400) + value(590)) / 2;
    for (let x = 400; x < 590; x++)
      if (value(x) <= middle && value(x + 1) > middle)
        return x + (middle - value(x)) / (value(x + 1) - value(x));
    throw new Error('There is no edge.');
  }

  it('come together where the profile says that they lie apart, each by its own amount', () => {
    const facts = { rendering: 'display' as const };
    const [before, after] = [{ lens: { lateral: 0 } }, {}].map((recipe) => {
      const out = rendered(source, inputsFor(recipe, facts, shifted));
      return [0, 1, 2].map((colour) => crossing(out, colour));
    });
    expect(before[0] - before[1]).toBeCloseTo(240 * 0.004, 1);
    expect(before[2] - before[1]).toBeCloseTo(240 * -0.006, 1);
    expect(Math.abs(after[0] - after[1])).toBeLessThan(0.06);
    expect(Math.abs(after[2] - after[1])).toBeLessThan(0.06);
    expect(after[1]).toBeCloseTo(before[1], 3);
  });

  it('keep the three colours apart, near the border and inside, enlarged and reduced', () => {
    const flat = paint(() => [0.7, 0.4, 0.1]);
    for (const share of [0.5, 1, 1.7]) {
      const view = { ...WHOLE, pixel: WHOLE.pixel * share };
      const out = rendered(flat, inputsFor({}, { rendering: 'display' }, shifted), view);
      for (const [x, y] of [
        [2, 2],
        [300, 200],
        [150, 120]
      ]) {
        const [r, g, b] = pixel(out, x, y);
        expect(r).toBeCloseTo(0.8547, 2);
        expect(g).toBeCloseTo(0.6652, 2);
        expect(b).toBeCloseTo(0.3492, 2);
      }
    }
  });
});

describe('falloff', () => {
  it('is undone by the profile, each colour by its own light', () => {
    const terms = [-0.5, 0.1];
    const [red, blue] = [[-0.12], [0.08]];
    const choice = profileOf({ falloff: [{ focalLength: 24, terms, red, blue }] });
    const even = (of: number[], r2: number): number =>
      1 + of.reduceRight((sum, term) => (sum + term) * r2, 0);
    const source = paint((x, y) => {
      const r2 = ((x - 300) ** 2 + (y - 200) ** 2) / UNIT ** 2;
      const light = 0.3 * even(terms, r2);
      return [light * even(red, r2), light, light * even(blue, r2)];
    });
    const out = rendered(source, inputsFor({}, { rendering: 'display' }, choice));
    for (const [x, y] of [
      [300, 200],
      [20, 20],
      [580, 30],
      [100, 390]
    ])
      for (const value of pixel(out, x, y)) expect(Math.abs(value - 0.5838)).toBeLessThan(0.004);
  });

  it('that a file maps is undone place by place', () => {
    const values = [2, 1, 1, 1, 1, 1, 1, 1, 1, 1, 1, 4];
    const choice = profileOf({ gainMap: { columns: 2, rows: 2, values } });
    const out = rendered(
      paint(() => [0.1, 0.1, 0.1]),
      inputsFor({}, { rendering: 'display' }, choice)
    );
    const encode = (linear: number): number => 1.055 * linear ** (1 / 2.4) - 0.055;
    expect(Math.abs(pixel(out, 0, 0)[0] - encode(0.2))).toBeLessThan(0.012);
    expect(Math.abs(pixel(out, 0, 0)[2] - encode(0.1))).toBeLessThan(0.012);
    expect(Math.abs(pixel(out, 599, 399)[2] - encode(0.4))).toBeLessThan(0.012);
    expect(Math.abs(pixel(out, 599, 399)[0] - encode(0.1))).toBeLessThan(0.012);
  });
});

/** Whole pictures are compared in one go: value by value takes seconds. */
const expectSame = (a: Uint16Array, b: Uint16Array): void =>
  expect(Buffer.compare(Buffer.from(a.buffer), Buffer.from(b.buffer))).toBe(0);

/** A purple fringe along a window that crosses the whole picture. */
const window = paint((x, y) => {
  const distance = x - 300 - 0.3 * (y - 200);
  if (distance > 0) return [0.85, 0.87, 0.9];
  return distance > -3 ? [0.4, 0.12, 0.6] : [0.05, 0.05, 0.05];
});

describe('tiles', () => {
  const recipe: PartialRecipe = {
    lens: { fringeOne: 100, corner: 0.4 },
    lines: { roll: 1.5, pitch: 4, stretch: 2 }
  };
  const inputs = inputsFor(recipe);
  const view: View = { left: -0.5, top: -0.35, pixel: 1 / UNIT, width: 360, height: 250 };

  it('make the same picture however it is cut, fringes across their borders too', () => {
    const whole = rendered(window, inputs, view);
    let [changed, worst] = [0, 0];
    const without = rendered(window, inputsFor({ ...recipe, lens: { corner: 0.4 } }), view);
    for (let i = 0; i < whole.length; i++) if (Math.abs(whole[i] - without[i]) > 2000) changed++;
    expect(changed).toBeGreaterThan(300);
    for (const [left, top, width, height] of [
      [0, 0, 360, 17],
      [0, 17, 360, 64],
      [0, 81, 170, 169],
      [170, 81, 190, 169]
    ]) {
      const tile = rendered(window, inputs, {
        ...view,
        left: view.left + left * view.pixel,
        top: view.top + top * view.pixel,
        width,
        height
      });
      for (let y = 0; y < height; y++)
        for (let i = 0; i < width * 3; i++)
          worst = Math.max(
            worst,
            Math.abs(tile[y * width * 3 + i] - whole[((top + y) * 360 + left) * 3 + i])
          );
    }
    // Meshes of parts differ by a hundredth of a pixel, at an edge as steep as can be.
    expect(worst / 65535).toBeLessThan(0.01);
  });

  it('hold 8 and 16 bits of the same values, and clear pixels where there are none', () => {
    const wide: View = { left: -1.3, top: -0.9, pixel: 0.01, width: 260, height: 180 };
    const request = { source: paint((x, y) => [x / 600, y / 400, 0.5]), stages: inputs.stages, view: wide };
    const [rgb8, rgb16] = [new Uint8Array(260 * 180 * 3), new Uint16Array(260 * 180 * 3)];
    const rgba = new Uint8ClampedArray(260 * 180 * 4);
    renderTile(request, packRgb(rgb8, 260));
    renderTile(request, packRgb(rgb16, 260));
    renderTile(request, packRgba8(rgba, 260));
    let [clear, deep, shallow, notBlack] = [0, 0, 0, 0];
    for (let i = 0; i < 260 * 180; i++) {
      for (let c = 0; c < 3; c++) {
        deep = Math.max(deep, Math.abs(rgb16[i * 3 + c] / 257 - rgb8[i * 3 + c]));
        shallow = Math.max(shallow, Math.abs(rgba[i * 4 + c] - rgb8[i * 3 + c]));
      }
      if (rgba[i * 4 + 3] !== 0) continue;
      clear++;
      notBlack += rgb8[i * 3] + rgb8[i * 3 + 1] + rgb8[i * 3 + 2];
    }
    // Files of 8 bits are dithered by up to a code, and the screen is not.
    expect(deep).toBeLessThanOrEqual(1.51);
    expect(shallow).toBeLessThanOrEqual(2);
    expect(notBlack).toBe(0);
    expect(new Set(rgba.filter((_, i) => i % 4 === 3))).toEqual(new Set([0, 255]));
    expect(clear).toBeGreaterThan(5000);
    expect(clear).toBeLessThan(40000);
  });

  it('are resampled anew only when their geometry or fringes change, not for light alone', () => {
    const cache: TileCache = new Map();
    const request = { source: window, stages: inputs.stages, view, label: 'test' };
    rendered(window, inputs, view, cache);
    const tiles = new Map([...cache].map(([name, { tile }]) => [name, tile]));
    expect([...tiles.keys()]).toEqual(['geometry', 'fringe']);
    const lighter = inputsFor({ ...recipe, lens: { fringeOne: 100, corner: 1.2 } });
    expect(neighbourhoodKey(lighter.stages)).toBe(neighbourhoodKey(request.stages));
    // From what is kept the same comes as from nothing.
    expectSame(rendered(window, lighter, view, cache), rendered(window, lighter, view));
    for (const [name, tile] of tiles) expect(cache.get(name)!.tile).toBe(tile);
    // Another amount of fringe starts from the same resampling.
    const lessFringe = inputsFor({ ...recipe, lens: { fringeOne: 50, corner: 1.2 } });
    expect(neighbourhoodKey(lessFringe.stages)).not.toBe(neighbourhoodKey(request.stages));
    expectSame(rendered(window, lessFringe, view, cache), rendered(window, lessFringe, view));
    expect(cache.get('geometry')!.tile).toBe(tiles.get('geometry'));
    expect(cache.get('fringe')!.tile).not.toBe(tiles.get('fringe'));
    const turned = inputsFor({ ...recipe, lines: { roll: 2 } });
    expect(neighbourhoodKey(turned.stages)).not.toBe(neighbourhoodKey(request.stages));
    expectSame(rendered(window, turned, view, cache), rendered(window, turned, view));
  });

  it('are made anew for a finer map, and taken as they are for the same', () => {
    const cache: TileCache = new Map();
    const draw = (meshError: number): void => {
      const out = new Uint16Array(360 * 250 * 3);
      renderTile(
        { source: window, stages: inputs.stages, view, label: 'test', meshError },
        packRgb(out, 360),
        cache
      );
    };
    draw(0.5);
    const coarse = cache.get('geometry')!.tile;
    draw(0.5);
    expect(cache.get('geometry')!.tile).toBe(coarse);
    draw(0.02);
    expect(cache.get('geometry')!.tile).not.toBe(coarse);
  });

  it('in motion leave out what can wait, and are near the picture at rest', () => {
    const draft = new Uint16Array(360 * 250 * 3);
    renderTile({ source: window, stages: inputs.stages, view, draft: true }, packRgb(draft, 360));
    const plain = rendered(window, inputsFor({ ...recipe, lens: { corner: 0.4 } }), view);
    const mean = draft.reduce((sum, value, i) => sum + Math.abs(value - plain[i]), 0) / draft.length;
    expect(mean / 65535).toBeLessThan(0.002);
  });

  it('are sharpened for the output the same however they are cut, and up to the border of the frame', () => {
    const light = (x: number, y: number): number =>
      (Math.floor(x / 9) + Math.floor(y / 7)) % 2 ? 0.6 : 0.15;
    const boards = paint((x, y) => [light(x, y), light(x, y), light(x, y)]);
    const facts = { rendering: 'display' as const };
    const [plainly, sharp] = [null, { radius: 1.3, amount: 0.9 }].map((sharpening) =>
      inputsFor({ lens: { bow: 1 } }, facts, NO_CHOICE, { sharpening })
    );
    const whole = rendered(boards, sharp, WHOLE);
    const without = rendered(boards, plainly, WHOLE);
    // Only edges change: at the border of the frame, beyond which there is nothing, no rim is drawn.
    let [most, rim] = [0, 0];
    for (let i = 0; i < whole.length; i++) most = Math.max(most, Math.abs(whole[i] - without[i]));
    expect(most / 65535).toBeGreaterThan(0.05);
    for (let x = 0; x < SIZE.width; x++) {
      const at = (row: number): number => whole[(row * SIZE.width + x) * 3];
      const [inner, was] = [at(3), without[(3 * SIZE.width + x) * 3]];
      if (inner === was && without[x * 3] === was) rim = Math.max(rim, Math.abs(at(0) - at(3)));
    }
    expect(rim / 65535).toBeLessThan(0.002);
    let worst = 0;
    for (const [top, height] of [
      [0, 130],
      [130, 131],
      [261, 139]
    ]) {
      const band = rendered(boards, sharp, { ...WHOLE, top: WHOLE.top + top * WHOLE.pixel, height });
      for (let i = 0; i < band.length; i++)
        worst = Math.max(worst, Math.abs(band[i] - whole[top * SIZE.width * 3 + i]));
    }
    expect(worst / 65535).toBeLessThan(0.01);
  });
});

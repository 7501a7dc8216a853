/** What becomes of colours on the way to a display: hue, continuity, and room, reckoned by an independent colour library. */
import { converter, differenceCiede2000 } from 'culori';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { SRGB_TO_REC2020 } from '../colour/primaries.ts';
import type { OutputSpace } from '../colour/rgb-spaces.ts';
import { IDENTITY, apply } from '../math/matrix3.ts';
import { type Look, valuesOf } from '../steps/colour/looks/look.ts';
import { toneSchema } from '../steps/tone/step.ts';
import type { PartialRecipe } from '../recipe/recipe.ts';
import { type Rgb, inputsFor, paint, rendered, wholeView } from './painted-frame.ts';

const oklch = converter('oklch');
const difference = differenceCiede2000();
const MODES = { srgb: 'rgb', 'display-p3': 'p3', rec2020: 'rec2020' } as const;

/** sRGB's linear light of what the library calls a colour; parts below 0 and above 1 are lawful. */
const lightOf = (colour: Parameters<typeof oklch>[0]): Rgb => {
  const { r, g, b } = converter('lrgb')(colour)!;
  return [r, g, b];
};

interface Shown {
  mode: 'rgb' | 'p3' | 'rec2020';
  r: number;
  g: number;
  b: number;
}

/** Colours as a frame of them is shown, each on a patch of its own. */
function shownAs(
  lights: readonly Rgb[],
  recipe: PartialRecipe = {},
  {
    rendering = 'scene',
    space = 'srgb',
    look = null
  }: { rendering?: 'scene' | 'display'; space?: keyof typeof MODES; look?: Look | null } = {}
): Shown[] {
  const size = { width: Math.max(16, lights.length * 4), height: 16 };
  // The file's own colours are the widest, so that it holds them all.
  const wide = lights.map((light) => apply(SRGB_TO_REC2020, [...light]));
  const source = paint((x) => wide[Math.min(lights.length - 1, Math.floor(x / 4))], size);
  const facts = { size, rendering, toWorking: IDENTITY };
  const inputs = inputsFor(recipe, facts, undefined, { space: space as OutputSpace });
  const out = rendered(source, inputs, wholeView(size), undefined, look);
  return lights.map((_, i) => {
    const at = (8 * size.width + i * 4 + 2) * 3;
    const [r, g, b] = [out[at] / 65535, out[at + 1] / 65535, out[at + 2] / 65535];
    return { mode: MODES[space], r, g, b };
  });
}

const COLOURS: Record<string, Rgb> = {
  sky: [0.25, 0.45, 0.9],
  sunset: [0.9, 0.45, 0.12],
  leaf: [0.12, 0.3, 0.05],
  lamp: [1, 0.75, 0.4],
  brick: [0.35, 0.12, 0.07],
  blue: [0.05, 0.08, 0.7],
  rose: [0.6, 0.05, 0.5],
  turquoise: [0.05, 0.6, 0.65],
  yellow: [0.8, 0.7, 0.05]
};
/** Each as light of every strength, a tenth of a stop apart, from far in the dark to far above white. */
const STRENGTHS = Array.from({ length: 100 }, (_, i) => 2 ** (-6 + i / 10));
const ramp = (colour: Rgb): Rgb[] =>
  STRENGTHS.map((strength) => colour.map((part) => part * strength) as unknown as Rgb);

const turn = (one: number, other: number): number => Math.abs(((one - other + 540) % 360) - 180);

/** Settings that keep hue, each at its end. */
const SETTINGS: Record<string, PartialRecipe> = {
  nothing: {},
  contrast: { tone: { contrast: 100 } },
  'less contrast': { tone: { contrast: -100 } },
  white: { tone: { white: 100 } },
  black: { tone: { black: -100 } },
  midtones: { tone: { midtones: 100 } },
  recovery: { tone: { recovery: 100 } },
  flat: { tone: { rendering: 'flat' } },
  firm: { tone: { rendering: 'firm' } },
  range: { tone: { rendering: 'range' } },
  'a curve': { tone: { curve: [{ x: 0.4, y: 0.7 }] } },
  saturation: { colour: { saturation: 100 } },
  'less saturation': { colour: { saturation: -60 } },
  vibrance: { colour: { vibrance: 100 } }
};

describe('light of every strength', () => {
  for (const [setting, recipe] of Object.entries(SETTINGS))
    it(`keeps its hue on the way to white, and gets there without a jump: ${setting}`, () => {
      for (const [name, colour] of Object.entries(COLOURS)) {
        const shown = shownAs(ramp(colour), recipe);
        const own = oklch({ mode: 'lrgb', r: colour[0], g: colour[1], b: colour[2] }).h!;
        for (const each of shown) {
          const { l, c, h } = oklch(each);
          if (c > 0.02 && l > 0.1) expect(turn(h!, own), name).toBeLessThan(2);
        }
        if (setting === 'range') continue;
        const last = shown.at(-1)!;
        expect(Math.min(last.r, last.g, last.b), name).toBeGreaterThan(0.5);
        // A step of a tenth of a stop changes a grey itself by up to 2.5, and by more with contrast.
        const most = /contrast|white|curve|black|firm|midtones/.test(setting) ? 6 : 3.2;
        for (let i = 1; i < shown.length; i++)
          expect(difference(shown[i - 1], shown[i]), `${name} at ${STRENGTHS[i]}`).toBeLessThan(most);
      }
    });
});

describe('the smallest step of a control, from nothing set', () => {
  const everything = Object.values(COLOURS).flatMap((colour) => ramp(colour).filter((_, i) => i % 7 === 0));
  const numbers = Object.entries(toneSchema.properties).flatMap(([name, setting]) =>
    'step' in setting && typeof setting.default === 'number' && !/^range|hazeDepth/.test(name)
      ? [[name, setting.default, name === 'exposure' ? 0.01 : setting.step] as const]
      : []
  );
  const plain = shownAs(everything);
  const changed = (recipe: PartialRecipe): number =>
    Math.max(...shownAs(everything, recipe).map((each, i) => difference(each, plain[i])));

  for (const [name, from, step] of numbers)
    if (!/highlights|shadows|fine|middle|broad|haze/.test(name))
      it(`is small: ${name}`, () => {
        expect(changed({ tone: { [name]: from + step } })).toBeLessThan(0.3);
      });
  it('is small: curves, levels, colours', () => {
    const bent = [{ x: 0.5, y: 0.502 }];
    for (const name of ['curve', 'curveAll', 'curveRed', 'curveBlue', 'curveLightness'] as const)
      expect(changed({ tone: { [name]: bent } }), name).toBeLessThan(0.3);
    const levels = { black: 0.001, middle: 1, white: 1, outBlack: 0, outWhite: 1 };
    expect(changed({ tone: { levels } })).toBeLessThan(0.3);
    expect(changed({ tone: { levels: { ...levels, black: 0, outBlack: 0.001 } } })).toBeLessThan(0.3);
    for (const colour of [{ saturation: 1 }, { vibrance: 1 }, { warmth: 0.5 }, { tint: 0.5 }, { redHue: 1 }])
      expect(changed({ colour }), JSON.stringify(colour)).toBeLessThan(0.35);
  });
});

describe('wide colours', () => {
  /** Every colour of a space on a lattice, and its corners. */
  const lattice = (mode: 'p3' | 'rec2020'): Rgb[] => {
    const at = [0, 0.25, 0.5, 0.75, 1];
    return at.flatMap((r) => at.flatMap((g) => at.map((b) => lightOf({ mode, r, g, b }))));
  };
  for (const [space, mode] of [
    ['display-p3', 'p3'],
    ['rec2020', 'rec2020']
  ] as const) {
    const lights = lattice(mode);
    const wanted = lights.map(([r, g, b]) => ({ mode: 'lrgb' as const, r, g, b }));

    it(`leave as they are where the space holds them: ${space}`, () => {
      shownAs(lights, {}, { rendering: 'display', space }).forEach((each, i) =>
        // The library's own matrix of the space is rounded.
        expect(difference(each, wanted[i])).toBeLessThan(0.8)
      );
    });

    it(`are moved by a tone as their light says, and keep their shares of it: ${space}`, () => {
      // A stop darker: half of each, in whatever primaries.
      const darker = shownAs(lights, { tone: { exposure: -1 } }, { rendering: 'display', space });
      darker.forEach((each, i) => {
        const { r, g, b } = wanted[i];
        expect(difference(each, { mode: 'lrgb', r: r / 2, g: g / 2, b: b / 2 })).toBeLessThan(0.8);
      });
    });

    it(`go through a look that changes nothing: ${space}`, () => {
      for (const lookSpace of ['srgb', 'linear'] as const)
        for (const kind of ['1D', '3D'] as const) {
          const size = 17;
          const values = Float32Array.from({ length: valuesOf({ kind, size }) }, (_, i) => {
            const node = Math.floor(i / 3);
            return kind === '1D' ? node / 16 : (Math.floor(node / 17 ** (i % 3)) % 17) / 16;
          });
          const look: Look = {
            name: 'None',
            kind,
            size,
            from: [0, 0, 0],
            to: [1, 1, 1],
            space: lookSpace,
            values
          };
          for (const lookAmount of [1, 60, 100])
            shownAs(
              lights,
              { colour: { look: 'none', lookAmount } },
              { rendering: 'display', space, look }
            ).forEach((each, i) => expect(difference(each, wanted[i])).toBeLessThan(0.8));
        }
    });
  }

  it('that sRGB cannot hold keep hue, give up chroma and no lightness to speak of', () => {
    fc.assert(
      fc.property(
        fc.array(fc.double({ min: 0, max: 1, noNaN: true }), { minLength: 30, maxLength: 30 }),
        (parts) => {
          const lights = Array.from({ length: 10 }, (_, i) => {
            const [r, g, b] = parts.slice(i * 3, i * 3 + 3);
            return lightOf({ mode: 'rec2020', r, g, b });
          });
          shownAs(lights, {}, { rendering: 'display' }).forEach((each, i) => {
            const [r, g, b] = lights[i];
            const before = oklch({ mode: 'lrgb', r, g, b });
            const after = oklch(each);
            // Next to black a step of 16 bits is a turn.
            if (after.c > 0.02 && after.l > 0.15) expect(turn(after.h!, before.h!)).toBeLessThan(1.5);
            expect(after.c).toBeLessThan(before.c + 0.002);
            expect(before.l - after.l).toBeLessThan(0.06);
            // In the dark too, a colour is outside by its share of light that is missing.
            const most = Math.max(r, g, b);
            const outside = Math.min(r, g, b) < -1e-3 * most || most > 1.0001;
            if (!outside) expect(difference(each, { mode: 'lrgb', r, g, b })).toBeLessThan(0.8);
          });
        }
      ),
      { numRuns: 30 }
    );
  });
});

describe('a frame of the first rendition', () => {
  const curve = (light: number): number =>
    light >= 1 ? 1 : (light ** 1.15 * (1 + 0.8 ** 1.15)) / (light ** 1.15 + 0.8 ** 1.15);
  const LIGHTS: Rgb[] = [
    [0.02, 0.1, 0.4],
    [0.3, 0.3, 0.3],
    [0.9, 0.4, 0.1],
    [1.7, 1.6, 1.5]
  ];

  it('stays as it was finished: each colour by the base curve, and cut at white', () => {
    shownAs(LIGHTS, { rendition: 1 }).forEach((each, i) => {
      const [r, g, b] = LIGHTS[i].map(curve);
      expect(difference(each, { mode: 'lrgb', r, g, b })).toBeLessThan(0.2);
    });
  });

  it('is flat without any curve, and relit by its own tables', () => {
    const [dark] = shownAs([[0.18, 0.18, 0.18]], { rendition: 1, tone: { rendering: 'flat' } });
    expect(difference(dark, { mode: 'lrgb', r: 0.18, g: 0.18, b: 0.18 })).toBeLessThan(0.1);
    const anew = shownAs(LIGHTS, { tone: { rendering: 'flat' } });
    const kept = shownAs(LIGHTS, { rendition: 1, tone: { rendering: 'flat' } });
    for (const i of [0, 1, 2]) expect(difference(kept[i], anew[i])).toBeGreaterThan(1);
  });
});

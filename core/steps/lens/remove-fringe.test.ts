import { differenceCiede2000 } from 'culori';
import { describe, expect, it } from 'vitest';
import { srgbEncode } from '../../colour/srgb-transfer.ts';
import { SRGB_TO_REC2020, REC2020_TO_SRGB } from '../../colour/primaries.ts';
import { IDENTITY, apply } from '../../math/matrix3.ts';
import { type Planes, allocatePlanes } from '../../picture/tile/planes.ts';
import { hueAndChroma } from '../../colour/oklab.ts';
import { removeFringe } from './remove-fringe.ts';

const WIDTH = 220;
const HEIGHT = 120;
type Rgb = [number, number, number];

/** Linear sRGB colours painted into Rec.2020 planes. */
function paint(colourAt: (x: number, y: number) => Rgb): Planes {
  const planes = allocatePlanes(WIDTH, HEIGHT);
  for (let y = 0; y < HEIGHT; y++) {
    for (let x = 0; x < WIDTH; x++) {
      const [r, g, b] = apply(SRGB_TO_REC2020, colourAt(x, y));
      const at = y * WIDTH + x;
      planes.r[at] = r;
      planes.g[at] = g;
      planes.b[at] = b;
    }
  }
  return planes;
}

const colourOf = (planes: Planes, at: number): { mode: 'rgb'; r: number; g: number; b: number } => {
  const [r, g, b] = apply(REC2020_TO_SRGB, [planes.r[at], planes.g[at], planes.b[at]]).map((v) =>
    srgbEncode(Math.max(0, Math.min(1, v)))
  );
  return { mode: 'rgb', r, g, b };
};
const difference = differenceCiede2000();

const WALL: Rgb = [0.05, 0.048, 0.045];
const SKY: Rgb = [0.8, 0.84, 0.9];
const FLOWER: Rgb = [0.24, 0.06, 0.42];
const SIGN: Rgb = [0.04, 0.3, 0.12];

/** A dark wall against a bright window, a violet flower bed and a green sign on the wall, with or without a fringe. */
function scene(fringe: Rgb | null): Planes {
  return paint((x, y) => {
    let base: Rgb = x < 130 ? WALL : SKY;
    if (x > 15 && x < 50 && y > 20 && y < 100) base = FLOWER;
    if (x > 70 && x < 100 && y > 30 && y < 80) base = SIGN;
    if (fringe && x >= 126 && x < 130) {
      const weight = (1 - (130 - x) / 5) * 0.9;
      base = [base[0] + fringe[0] * weight, base[1] + fringe[1] * weight, base[2] + fringe[2] * weight];
    }
    return base;
  });
}

const OPTIONS = {
  colours: [
    { amount: 1, hue: 310, range: 70 },
    { amount: 1, hue: 150, range: 70 }
  ],
  width: 7,
  toWorking: IDENTITY
};

/** Colour energy of a fringe: squared chroma beyond that of the clean scene. */
function energy(planes: Planes, clean: Planes): number {
  let sum = 0;
  for (let y = 10; y < HEIGHT - 10; y++) {
    for (let x = 120; x < 131; x++) {
      const at = y * WIDTH + x;
      const { chroma, hue } = hueAndChroma([planes.r[at], planes.g[at], planes.b[at]]);
      const was = hueAndChroma([clean.r[at], clean.g[at], clean.b[at]]);
      const [a, b] = [chroma * Math.cos((hue * Math.PI) / 180), chroma * Math.sin((hue * Math.PI) / 180)];
      const [ca, cb] = [
        was.chroma * Math.cos((was.hue * Math.PI) / 180),
        was.chroma * Math.sin((was.hue * Math.PI) / 180)
      ];
      sum += (a - ca) ** 2 + (b - cb) ** 2;
    }
  }
  return sum;
}

describe('fringe removal', () => {
  it.each([
    ['purple', [0.3, 0.08, 0.55]],
    ['green', [0.05, 0.35, 0.16]]
  ] as const)(
    'takes away at least 80 %% of a %s fringe at a window, and leaves flowers and signs alone',
    (_, fringe) => {
      const clean = scene(null);
      const planes = scene([...fringe] as Rgb);
      const untouched = scene([...fringe] as Rgb);
      const before = energy(planes, clean);
      removeFringe(planes, OPTIONS);
      expect(energy(planes, clean)).toBeLessThan(before * 0.2);
      let worst = 0;
      for (let y = 0; y < HEIGHT; y++)
        for (let x = 0; x < 118; x++)
          worst = Math.max(
            worst,
            difference(colourOf(planes, y * WIDTH + x), colourOf(untouched, y * WIDTH + x))
          );
      expect(worst).toBeLessThan(0.5);
    }
  );

  it('keeps the colour of a flower bed right at a bright window', () => {
    const bed = (): Planes => paint((x) => (x < 110 ? FLOWER : SKY));
    const planes = bed();
    removeFringe(planes, OPTIONS);
    const at = 60 * WIDTH + 106;
    expect(difference(colourOf(planes, at), colourOf(bed(), at))).toBeLessThan(0.5);
  });

  it('takes a share by its amount, none at nothing, and none of other hues', () => {
    const clean = scene(null);
    const before = energy(scene([0.3, 0.08, 0.55]), clean);
    const left = (colours: typeof OPTIONS.colours): number => {
      const planes = scene([0.3, 0.08, 0.55]);
      removeFringe(planes, { ...OPTIONS, colours });
      return energy(planes, clean) / before;
    };
    expect(left([{ amount: 0, hue: 310, range: 70 }])).toBe(1);
    expect(left([{ amount: 0.5, hue: 310, range: 70 }])).toBeGreaterThan(0.15);
    expect(left([{ amount: 0.5, hue: 310, range: 70 }])).toBeLessThan(0.5);
    expect(left([{ amount: 1, hue: 130, range: 60 }])).toBeGreaterThan(0.95);
  });

  it('leaves clear pixels clear', () => {
    const planes = scene([0.3, 0.08, 0.55]);
    for (const plane of [planes.r, planes.g, planes.b]) plane[60 * WIDTH + 128] = 0;
    removeFringe(planes, OPTIONS);
    for (const plane of [planes.r, planes.g, planes.b]) expect(plane[60 * WIDTH + 128]).toBe(0);
  });
});

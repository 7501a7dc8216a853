import { converter } from 'culori';
import { describe, expect, it } from 'vitest';
import { unfoldHighlight } from '../tile/highlights.ts';
import { type Planes, allocatePlanes } from '../tile/planes.ts';
import { developBand } from './develop.ts';
import { type Mosaic, type QuarterTurns, type SiteColour, orientedSize } from './mosaic.ts';

const toLab = converter('lab65');

const WIDTH = 96;
const HEIGHT = 64;

/** A smooth coloured scene with a diagonal edge, seen through a Bayer filter. */
const scene = (x: number, y: number): [number, number, number] => {
  const edge = x + 0.6 * y > 60 ? 1 : 0.4;
  return [
    0.5 * edge + 0.05 * Math.sin(x / 13),
    0.4 * edge + 0.05 * Math.sin(x / 13),
    0.3 * edge + 0.05 * Math.cos(y / 9)
  ];
};

function mosaicOf(pattern: Mosaic['pattern'], extra: Partial<Mosaic> = {}): Mosaic {
  const stride = WIDTH + 10;
  const data = new Uint16Array(stride * (HEIGHT + 6));
  for (let y = 0; y < HEIGHT; y++) {
    for (let x = 0; x < WIDTH; x++) {
      const colour = pattern[(y & 1) * 2 + (x & 1)];
      data[(y + 4) * stride + x + 6] = 512 + scene(x, y)[colour] * 10000;
    }
  }
  return {
    data,
    stride,
    left: 6,
    top: 4,
    width: WIDTH,
    height: HEIGHT,
    pattern,
    black: 512,
    white: 10512,
    multipliers: [1, 1, 1],
    turns: 0,
    ...extra
  };
}

const PATTERNS: [string, [SiteColour, SiteColour, SiteColour, SiteColour]][] = [
  ['RGGB', [0, 1, 1, 2]],
  ['BGGR', [2, 1, 1, 0]],
  ['GRBG', [1, 0, 2, 1]],
  ['GBRG', [1, 2, 0, 1]]
];

describe('developing a mosaic', () => {
  it.each(PATTERNS)('rebuilds smooth colours and edges from %s', (_, pattern) => {
    const planes = allocatePlanes(WIDTH, HEIGHT);
    developBand(mosaicOf(pattern), planes, 0, HEIGHT);
    let sum = 0;
    let worstSmooth = 0;
    for (let y = 0; y < HEIGHT; y++) {
      for (let x = 0; x < WIDTH; x++) {
        const truth = scene(x, y);
        const i = y * WIDTH + x;
        const error = Math.max(
          Math.abs(planes.r[i] - truth[0]),
          Math.abs(planes.g[i] - truth[1]),
          Math.abs(planes.b[i] - truth[2])
        );
        sum += error * error;
        if (Math.abs(x + 0.6 * y - 60) > 6) worstSmooth = Math.max(worstSmooth, error);
      }
    }
    expect(worstSmooth).toBeLessThan(0.01);
    expect(Math.sqrt(sum / (WIDTH * HEIGHT))).toBeLessThan(0.025);
  });

  it('gives bands the same pixels as the whole', () => {
    const mosaic = mosaicOf([0, 1, 1, 2]);
    const whole = allocatePlanes(WIDTH, HEIGHT);
    developBand(mosaic, whole, 0, HEIGHT);
    const parts = allocatePlanes(WIDTH, HEIGHT);
    for (const [from, to] of [
      [0, 13],
      [13, 40],
      [40, HEIGHT]
    ])
      developBand(mosaic, parts, from, to);
    expect(parts.r).toEqual(whole.r);
    expect(parts.g).toEqual(whole.g);
    expect(parts.b).toEqual(whole.b);
  });

  it('keeps clipped white neutral, at the highest level that any colour reaches', () => {
    const mosaic = mosaicOf([0, 1, 1, 2], { multipliers: [2.4, 1, 1.6] });
    mosaic.data.fill(10512);
    const planes = allocatePlanes(WIDTH, HEIGHT);
    developBand(mosaic, planes, 0, HEIGHT);
    for (const plane of [planes.r, planes.g, planes.b])
      for (const value of plane) expect(unfoldHighlight(value)).toBeCloseTo(2.4, 4);
  });

  it('rebuilds a grey ramp beyond the clipping of single colours: true, neutral, without a step', () => {
    const multipliers = [2.8, 1, 1.9] as const;
    const pattern = [0, 1, 1, 2] as const;
    const mosaic = mosaicOf([...pattern], { multipliers });
    /** From half of white to well beyond where every colour clips. */
    const light = (x: number): number => 0.5 + (3 * x) / WIDTH;
    for (let y = 0; y < HEIGHT; y++) {
      for (let x = 0; x < WIDTH; x++) {
        const sensor = light(x) / multipliers[pattern[(y & 1) * 2 + (x & 1)]];
        mosaic.data[(y + 4) * mosaic.stride + x + 6] = 512 + Math.min(1, sensor) * 10000;
      }
    }
    const planes = allocatePlanes(WIDTH, HEIGHT);
    developBand(mosaic, planes, 0, HEIGHT);
    let before = 0;
    for (let x = 4; x < WIDTH - 4; x++) {
      const at = 30 * WIDTH + x;
      const [r, g, b] = [planes.r[at], planes.g[at], planes.b[at]].map(unfoldHighlight);
      const truth = Math.min(light(x), 2.8);
      for (const value of [r, g, b]) expect(Math.abs(value / truth - 1)).toBeLessThan(0.05);
      expect(Math.max(r, g, b) / Math.min(r, g, b)).toBeLessThan(1.04);
      // A step of the ramp is 0.03: nothing falls, and nothing jumps.
      expect(g - before).toBeGreaterThan(-0.02);
      if (x > 4) expect(g - before).toBeLessThan(0.1);
      before = g;
    }
  });

  it.each([
    ['green', [2.9, 1, 1.9], [0, 1, 1, 2]],
    ['green, all but alone', [2.9, 1, 2.9], [0, 1, 1, 2]],
    ['red', [1, 2.9, 2], [0, 1, 1, 2]],
    ['blue', [2, 2.9, 1], [2, 1, 1, 0]]
  ] as const)(
    'rebuilds a grey ramp a stop and a half beyond where %s clips, neutral to an eye',
    (_, multipliers, pattern) => {
      const mosaic = mosaicOf([...pattern], { multipliers });
      const light = (x: number): number => 0.3 * 2 ** ((x / WIDTH) * Math.log2(2 ** 1.5 / 0.3));
      for (let y = 0; y < HEIGHT; y++)
        for (let x = 0; x < WIDTH; x++) {
          const sensor = light(x) / multipliers[pattern[(y & 1) * 2 + (x & 1)]];
          mosaic.data[(y + 4) * mosaic.stride + x + 6] = 512 + Math.min(1, sensor) * 10000;
        }
      const planes = allocatePlanes(WIDTH, HEIGHT);
      developBand(mosaic, planes, 0, HEIGHT);
      /** Chroma as shown when the end of the ramp is exposed to be white, by an independent library. */
      const castOf = ([r, g, b]: readonly number[]): number => {
        const shown = toLab({ mode: 'lrgb', r: r / 2 ** 1.5, g: g / 2 ** 1.5, b: b / 2 ** 1.5 });
        return Math.hypot(shown.a, shown.b);
      };
      let [off, cast] = [0, 0];
      for (let x = 6; x < WIDTH - 6; x++) {
        const at = 30 * WIDTH + x;
        const found = [planes.r[at], planes.g[at], planes.b[at]].map(unfoldHighlight);
        for (const value of found) off = Math.max(off, Math.abs(value / light(x) - 1));
        cast = Math.max(cast, castOf(found));
      }
      expect(off).toBeLessThan(0.05);
      expect(cast).toBeLessThan(1);
    }
  );

  it.each([
    [1.5, 0],
    [1.5, 0.08],
    [4, 0],
    [4, 0.08],
    [4, 0.35]
  ])(
    'draws no coloured dashes along a window %d times as bright as white, upright but for %d',
    (light, slope) => {
      const multipliers = [2.4, 1, 1.6] as const;
      const mosaic = mosaicOf([0, 1, 1, 2], { multipliers });
      /** Pixels from the edge between a dark wall and a window, neither of them coloured. */
      const beyond = (x: number, y: number): number => x + 0.5 - WIDTH / 2 - slope * (y - HEIGHT / 2);
      for (let y = 0; y < HEIGHT; y++)
        for (let x = 0; x < WIDTH; x++) {
          const share = Math.min(1, Math.max(0, beyond(x, y) / 1.4 + 0.5));
          const sensor = (0.06 + (light - 0.06) * share) / multipliers[[0, 1, 1, 2][(y & 1) * 2 + (x & 1)]];
          mosaic.data[(y + 4) * mosaic.stride + x + 6] = 512 + 10000 * Math.min(1, sensor);
        }
      const planes = allocatePlanes(WIDTH, HEIGHT);
      developBand(mosaic, planes, 0, HEIGHT, { clip: true });
      let [worst, sum, count] = [0, 0, 0];
      for (let y = 8; y < HEIGHT - 8; y++)
        for (let x = 8; x < WIDTH - 8; x++) {
          const at = y * WIDTH + x;
          const seen = [planes.r[at], planes.g[at], planes.b[at]].map((value) =>
            Math.sqrt(Math.max(0, value))
          );
          const colour = Math.max(...seen) - Math.min(...seen);
          worst = Math.max(worst, colour);
          if (Math.abs(beyond(x, y)) > 4) continue;
          sum += colour;
          count++;
        }
      expect(sum / count).toBeLessThan(0.015);
      expect(worst).toBeLessThan(0.15);
    }
  );

  it('ends at white where that is asked for, and is else the same', () => {
    const mosaic = mosaicOf([0, 1, 1, 2], { multipliers: [2.8, 1, 1.9] });
    for (let i = 0; i < mosaic.data.length; i++) mosaic.data[i] = 512 + (i % mosaic.stride) * 95;
    const [kept, clipped] = [allocatePlanes(WIDTH, HEIGHT), allocatePlanes(WIDTH, HEIGHT)];
    developBand(mosaic, kept, 0, HEIGHT);
    developBand(mosaic, clipped, 0, HEIGHT, { clip: true });
    for (const c of ['r', 'g', 'b'] as const) {
      expect(Math.max(...kept[c])).toBeGreaterThan(1.5);
      expect(clipped[c]).toEqual(kept[c].map((value) => Math.min(1, value)));
    }
  });

  it('does not raise what is not grey: a blue sky stays blue where blue clips, a lamp warm', () => {
    const patch = (rgb: readonly [number, number, number], multipliers: [number, number, number]) => {
      const mosaic = mosaicOf([0, 1, 1, 2], { multipliers });
      for (let y = 0; y < HEIGHT; y++)
        for (let x = 0; x < WIDTH; x++) {
          const colour = [0, 1, 1, 2][(y & 1) * 2 + (x & 1)];
          const sensor = Math.min(1, rgb[colour] / multipliers[colour]);
          mosaic.data[(y + 4) * mosaic.stride + x + 6] = 512 + sensor * 10000;
        }
      const planes = allocatePlanes(WIDTH, HEIGHT);
      developBand(mosaic, planes, 0, HEIGHT);
      const at = 30 * WIDTH + 40;
      return [planes.r[at], planes.g[at], planes.b[at]].map(unfoldHighlight);
    };
    const sky = patch([0.5, 0.7, 1.9], [2, 1, 1.5]);
    expect(sky[0]).toBeCloseTo(0.5, 2);
    expect(sky[1]).toBeCloseTo(0.7, 2);
    expect(sky[2]).toBeCloseTo(1.5, 2);
    const lamp = patch([2.6, 1.6, 0.5], [2, 1, 1.5]);
    // Red and green clip: between them green must not fall behind and turn the lamp red.
    expect(lamp[1] / lamp[0]).toBeGreaterThan(0.55);
    expect(lamp[2]).toBeCloseTo(0.5, 2);
  });

  it('removes hot pixels but keeps small lights', () => {
    const mosaic = mosaicOf([0, 1, 1, 2]);
    mosaic.data.fill(512 + 300);
    const at = (x: number, y: number): number => (y + 4) * mosaic.stride + x + 6;
    mosaic.data[at(30, 30)] = 10000;
    for (let y = 40; y < 44; y++) for (let x = 60; x < 64; x++) mosaic.data[at(x, y)] = 10000;
    // Four times as bright as all about it, but by no more than noise in deep shadow is.
    mosaic.data[at(30, 50)] = 512 + 300 * 2;
    mosaic.data[at(28, 50)] =
      mosaic.data[at(32, 50)] =
      mosaic.data[at(30, 48)] =
      mosaic.data[at(30, 52)] =
        512 + 150;
    const planes = allocatePlanes(WIDTH, HEIGHT);
    developBand(mosaic, planes, 0, HEIGHT);
    const faint = planes.r[50 * WIDTH + 30] / planes.r[20 * WIDTH + 20];
    expect(faint).toBeGreaterThan(1.5);
    expect(planes.r[30 * WIDTH + 30]).toBeLessThan(0.05);
    expect(planes.g[42 * WIDTH + 62]).toBeGreaterThan(0.8);
  });

  const GROUND = 0.45;
  /** A plain ground, and light added at single sites of it, developed. */
  function developOnGround(
    light: (x: number, y: number, colour: SiteColour) => number,
    ground = GROUND
  ): Planes {
    const mosaic = mosaicOf([0, 1, 1, 2]);
    for (let y = 0; y < HEIGHT; y++)
      for (let x = 0; x < WIDTH; x++) {
        const value = Math.min(1, ground + light(x, y, mosaic.pattern[(y & 1) * 2 + (x & 1)]));
        mosaic.data[(y + 4) * mosaic.stride + x + 6] = 512 + value * 10000;
      }
    const planes = allocatePlanes(WIDTH, HEIGHT);
    developBand(mosaic, planes, 0, HEIGHT);
    return planes;
  }
  /** A point of light as the glass spreads it: 1 in its middle. */
  const spotAt =
    (cx: number, cy: number) =>
    (x: number, y: number, deviation: number): number =>
      Math.exp(-((x - cx) ** 2 + (y - cy) ** 2) / (2 * deviation ** 2));
  const SITES: [x: number, y: number, own: 'r' | 'g' | 'b'][] = [
    [40, 30, 'r'],
    [41, 30, 'g'],
    [40, 31, 'g'],
    [43, 33, 'b']
  ];

  it.each(SITES)('removes a site hot to white on bright ground, at %i, %i', (hx, hy) => {
    const planes = developOnGround((x, y) => (x === hx && y === hy ? 1 : 0));
    for (const plane of [planes.r, planes.g, planes.b])
      for (let y = hy - 4; y <= hy + 4; y++)
        for (let x = hx - 4; x <= hx + 4; x++)
          expect(Math.abs(plane[y * WIDTH + x] - GROUND)).toBeLessThan(0.01);
  });

  it.each(SITES)(
    'removes one from a ground that is nearly black, but no point of light, at %i, %i',
    (hx, hy, own) => {
      const at = hy * WIDTH + hx;
      const hot = developOnGround((x, y) => (x === hx && y === hy ? 1 : 0), 0.02);
      expect(Math.abs(hot[own][at] - 0.02)).toBeLessThan(0.005);
      const spot = spotAt(hx, hy);
      const point = developOnGround((x, y) => 0.9 * spot(x, y, 0.548), 0.02);
      expect(point[own][at]).toBeGreaterThan(0.5);
    }
  );

  it('does not take a fine grid for hot pixels, each of whose sites is far brighter than all of its colour about it', () => {
    const planes = developOnGround((x, y) => (((x >> 1) + (y >> 1)) % 2 ? 0.6 : 0), 0.2);
    expect(planes.g.reduce((sum, value) => sum + value, 0) / planes.g.length).toBeCloseTo(0.5, 1);
  });

  it.each(SITES)(
    'keeps a point of light on bright ground, white or of one colour, at %i, %i',
    (hx, hy, own) => {
      const spot = spotAt(hx, hy);
      const white = developOnGround((x, y) => 0.5 * spot(x, y, 0.55));
      expect(white[own][hy * WIDTH + hx]).toBeGreaterThan(GROUND + 0.2);
      // The sites of the other colours see nothing of it.
      const pure = developOnGround((x, y, colour) =>
        colour === 'rgb'.indexOf(own) ? 0.5 * spot(x, y, 1) : 0
      );
      expect(pure[own][hy * WIDTH + hx]).toBeGreaterThan(GROUND + 0.2);
    }
  );

  it.each([0, 1, 2, 3] as QuarterTurns[])('stands upright after %i quarter turns', (turns) => {
    const mosaic = mosaicOf([0, 1, 1, 2], { turns });
    const size = orientedSize(mosaic);
    const planes = allocatePlanes(size.width, size.height);
    developBand(mosaic, planes, 0, HEIGHT);
    const [x, y] = [70, 20];
    const place = [
      [x, y],
      [HEIGHT - 1 - y, x],
      [WIDTH - 1 - x, HEIGHT - 1 - y],
      [y, WIDTH - 1 - x]
    ][turns];
    expect(planes.g[place[1] * size.width + place[0]]).toBeCloseTo(scene(x, y)[1], 1);
  });
});

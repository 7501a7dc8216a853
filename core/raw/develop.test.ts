import { describe, expect, it } from 'vitest';
import { allocatePlanes } from '../tile/planes.ts';
import { developBand } from './develop.ts';
import { type Mosaic, type QuarterTurns, type SiteColour, orientedSize } from './mosaic.ts';

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

  it('keeps clipped white white, whatever the balance', () => {
    const mosaic = mosaicOf([0, 1, 1, 2], { multipliers: [2.4, 1, 1.6] });
    mosaic.data.fill(10512);
    const planes = allocatePlanes(WIDTH, HEIGHT);
    developBand(mosaic, planes, 0, HEIGHT);
    for (const plane of [planes.r, planes.g, planes.b])
      for (const value of plane) expect(value).toBeCloseTo(1, 5);
  });

  it('removes hot pixels but keeps small lights', () => {
    const mosaic = mosaicOf([0, 1, 1, 2]);
    mosaic.data.fill(512 + 300);
    const at = (x: number, y: number): number => (y + 4) * mosaic.stride + x + 6;
    mosaic.data[at(30, 30)] = 10000;
    for (let y = 40; y < 44; y++) for (let x = 60; x < 64; x++) mosaic.data[at(x, y)] = 10000;
    const planes = allocatePlanes(WIDTH, HEIGHT);
    developBand(mosaic, planes, 0, HEIGHT);
    expect(planes.r[30 * WIDTH + 30]).toBeLessThan(0.05);
    expect(planes.g[42 * WIDTH + 62]).toBeGreaterThan(0.8);
  });

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

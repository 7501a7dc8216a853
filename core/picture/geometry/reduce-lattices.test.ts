/** A reduction made of a mosaic's single sites, against the scene that the mosaic saw. */
import { describe, expect, it } from 'vitest';
import { NO_DISTORTION } from '../../optics/lens-model.ts';
import { halfDiagonal } from '../../math/frame-geometry.ts';
import { IDENTITY } from '../../math/matrix3.ts';
import { type Lattices, giveLatticesBack, splitBand, takeLattices } from '../raw/lattices.ts';
import type { Mosaic, QuarterTurns, SiteColour } from '../raw/mosaic.ts';
import { unfoldHighlight } from '../tile/highlights.ts';
import { type Planes, allocatePlanes } from '../tile/planes.ts';
import { buildMesh } from './build-mesh.ts';
import { reduceLattices } from './reduce-lattices.ts';

const WIDTH = 640;
const HEIGHT = 400;

/** Light of a colour at a place of the upright picture: slopes and a wave, another one for each. */
const scene = (colour: number, x: number, y: number): number =>
  0.2 +
  0.0003 * (colour + 1) * x +
  0.0002 * (3 - colour) * y +
  0.03 * Math.sin(x / 23 + colour) * Math.cos(y / 17);

function mosaicOf(pattern: Mosaic['pattern'], turns: QuarterTurns, width = WIDTH, height = HEIGHT): Mosaic {
  const stride = width + 6;
  const data = new Uint16Array(stride * (height + 4));
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const [ux, uy] = [
        [x, y],
        [height - 1 - y, x],
        [width - 1 - x, height - 1 - y],
        [y, width - 1 - x]
      ][turns];
      const colour = pattern[(y & 1) * 2 + (x & 1)];
      data[(y + 2) * stride + x + 4] = 500 + 30000 * scene(colour, ux + 0.5, uy + 0.5);
    }
  return {
    data,
    stride,
    left: 4,
    top: 2,
    width,
    height,
    pattern,
    black: 500,
    white: 30500,
    multipliers: [1, 1, 1],
    turns
  };
}

function reduced(lattices: Lattices, width: number): Planes {
  const { size } = lattices;
  const unit = halfDiagonal(size);
  const pixel = size.width / unit / width;
  const height = Math.round((size.height * width) / size.width);
  const view = { left: -size.width / unit / 2, top: -size.height / unit / 2, pixel, width, height };
  const out = allocatePlanes(width, height);
  const mesh = buildMesh({ size, focal: 1, model: NO_DISTORTION, rotation: IDENTITY }, view);
  reduceLattices(lattices, mesh, out);
  return out;
}

const PATTERNS: SiteColour[][] = [
  [0, 1, 1, 2],
  [2, 1, 1, 0],
  [1, 0, 2, 1],
  [1, 2, 0, 1]
];

describe('a reduction from the mosaic', () => {
  it.each(PATTERNS.flatMap((pattern) => ([0, 1, 2, 3] as const).map((turns) => [pattern, turns] as const)))(
    'keeps each colour of %j where its sites lie, after %i quarter turns',
    (pattern, turns) => {
      const mosaic = mosaicOf(pattern as unknown as Mosaic['pattern'], turns);
      const lattices = takeLattices(mosaic);
      for (const [from, to] of [
        [0, 130],
        [130, 131],
        [131, HEIGHT]
      ])
        splitBand(mosaic, lattices, from, to);
      const { size } = lattices;
      const out = reduced(lattices, Math.round(size.width / 2.93));
      const scale = size.width / out.width;
      const worst = [out.r, out.g, out.b].map((plane, colour) => {
        let most = 0;
        for (let y = 4; y < out.height - 4; y++)
          for (let x = 4; x < out.width - 4; x++) {
            const truth = scene(colour, (x + 0.5) * scale, (y + 0.5) * scale);
            most = Math.max(most, Math.abs(plane[y * out.width + x] - truth));
          }
        return most;
      });
      // A site's width off its place would be 0.0003 to 0.002 here.
      for (const most of worst) expect(most).toBeLessThan(3e-4);
      giveLatticesBack(lattices);
    }
  );

  it('keeps light above white, neutral, and takes hot pixels out; also of odd sizes', () => {
    const mosaic = mosaicOf([0, 1, 1, 2], 0, 301, 203);
    mosaic.multipliers = [2, 1, 1.5];
    mosaic.data.fill(500 + 1500);
    for (let y = 0; y < 100; y++) mosaic.data.fill(30500, (y + 2) * mosaic.stride, (y + 3) * mosaic.stride);
    mosaic.data[(150 + 2) * mosaic.stride + 200 + 4] = 30000;
    const lattices = takeLattices(mosaic);
    splitBand(mosaic, lattices, 0, mosaic.height);
    const out = reduced(lattices, 100);
    for (const plane of [out.r, out.g, out.b]) {
      expect(unfoldHighlight(plane[12 * out.width + 40])).toBeCloseTo(2, 3);
      expect(Math.max(...plane.subarray(45 * out.width))).toBeLessThan(0.11);
    }
  });
});

import { describe, expect, it } from 'vitest';
import { REC2020_TO_SRGB } from '../../core/colour/primaries.ts';
import { apply, multiply } from '../../core/math/matrix3.ts';
import { allocatePlanes } from '../../core/picture/tile/planes.ts';
import { developBand } from '../../core/picture/raw/develop.ts';
import { BLACK, WHITE } from '../../scenes/camera/capture.ts';
import { CAMERA_FROM_SRGB } from '../../scenes/camera/colour.ts';
import { DEMO_FRAMES, dngFacts } from '../../scenes/demo-frames.ts';
import { writeDng } from '../../scenes/camera/dng.ts';
import { decodeFile } from '../decode/decode-file.ts';

/** Linear sRGB colours of things buildings are made of, all within every gamut on the way. */
const PATCHES: [number, number, number][] = [
  [0.2, 0.2, 0.2],
  [0.36, 0.135, 0.08],
  [0.3, 0.26, 0.2],
  [0.1, 0.17, 0.05],
  [0.12, 0.2, 0.38],
  [0.05, 0.11, 0.1]
];
const SIDE = 64;

describe('colours of a raw file', () => {
  it('come back as they were in front of the demo camera, within 1 %', async () => {
    const width = SIDE * PATCHES.length;
    const data = new Uint16Array(width * SIDE);
    for (let y = 0; y < SIDE; y++) {
      for (let x = 0; x < width; x++) {
        const camera = apply(CAMERA_FROM_SRGB, PATCHES[Math.floor(x / SIDE)]);
        data[y * width + x] = Math.round(BLACK + camera[(x & 1) + (y & 1)] * (WHITE - BLACK));
      }
    }
    const dng = writeDng({ data, width, height: SIDE, turns: 0 }, dngFacts(DEMO_FRAMES[0]));
    const decoded = await decodeFile(dng, 'patches.dng');
    if (decoded.kind !== 'mosaic') throw new Error('The file should be a Bayer one.');
    const planes = allocatePlanes(width, SIDE);
    developBand(decoded.mosaic, planes, 0, SIDE);
    const toSrgb = multiply(REC2020_TO_SRGB, decoded.facts.toWorking);
    // White balance scales all colours alike: the grey patch sets the scale.
    const at = (patch: number): [number, number, number] => {
      const i = (SIDE / 2) * width + patch * SIDE + SIDE / 2;
      return apply(toSrgb, [planes.r[i], planes.g[i], planes.b[i]]);
    };
    const scale = PATCHES[0][1] / at(0)[1];
    PATCHES.forEach((truth, patch) => {
      at(patch).forEach((value, c) =>
        expect(Math.abs(value * scale - truth[c])).toBeLessThan(0.01 * Math.max(...truth))
      );
    });
  });
});

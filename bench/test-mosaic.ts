import type { FrameSize } from '../core/math/frame-geometry.ts';
import { BLACK, type Capture, WHITE } from '../scenes/camera/capture.ts';
import { WHITE_RESPONSE } from '../scenes/camera/colour.ts';
import { seededRandom } from '../core/math/random.ts';

/** A brick-like pattern with noise, quick to make at any size: as hard to demosaic and encode as a photograph. */
export function testMosaic({ width, height }: FrameSize): Capture {
  const random = seededRandom(24);
  const data = new Uint16Array(width * height);
  for (let y = 0; y < height; y++) {
    const course = Math.floor(y / 23);
    for (let x = 0; x < width; x++) {
      const joint = y % 23 < 3 || (x + (course & 1) * 34) % 68 < 3;
      const colour = (x & 1) + (y & 1);
      const light =
        (joint ? 0.45 : [0.36, 0.2, 0.14][colour]) * WHITE_RESPONSE[colour] * (0.6 + (0.4 * y) / height);
      data[y * width + x] = BLACK + (light + (random() - 0.5) * 0.02) * (WHITE - BLACK);
    }
  }
  return { data, width, height, turns: 0 };
}

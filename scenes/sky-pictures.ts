/** Pictures of nothing but sky, taken by the demo camera with its back upright: the horizon is their lower edge. */
import { srgbEncode } from '../core/colour/srgb-transfer.ts';
import { DAYLIGHT } from './buildings/parts.ts';
import type { Colour } from './trace/materials.ts';
import { type Light, normalise } from './trace/scene.ts';
import { skyRadiance } from './trace/sky.ts';

interface SkyView {
  light: Light;
  /** Exposure, as a multiple of the light. */
  exposure: number;
  /** Degrees to the right that the camera is turned to. */
  yaw: number;
}

/** By what recipes call them. */
export const SKY_VIEWS: Readonly<Record<string, SkyView>> = {
  'high-summer': { light: { ...DAYLIGHT, cloud: 0.2 }, exposure: 0.85, yaw: 20 },
  'fair-weather': {
    light: { ...DAYLIGHT, zenith: [0.17, 0.3, 0.6], horizon: [0.7, 0.78, 0.88], cloud: 0.62 },
    exposure: 0.85,
    yaw: 140
  },
  'first-light': {
    light: {
      sun: normalise([0.35, 0.05, 0.9]),
      sunColour: [9, 4.6, 1.9],
      zenith: [0.1, 0.14, 0.27],
      horizon: [0.62, 0.42, 0.34],
      cloud: 0.42
    },
    exposure: 1.1,
    yaw: 0
  }
};

/** Half the picture's width at a distance of one: half as wide again as that of a wide lens, since frames that were trued up reach far. */
const HALF_WIDTH = 1.15;
/** Rays across and down a pixel. */
const RAYS = 2;

/** Interleaved RGB of 8 bits in sRGB; `height` reaches up from the horizon. */
export function skyPicture({ light, exposure, yaw }: SkyView, width: number, height: number): Uint8Array {
  const rgb = new Uint8Array(width * height * 3);
  const pixel = (2 * HALF_WIDTH) / width;
  const [sin, cos] = [Math.sin((yaw * Math.PI) / 180), Math.cos((yaw * Math.PI) / 180)];
  const seen: Colour = [0, 0, 0];
  const sums = [0, 0, 0];
  for (let y = 0, at = 0; y < height; y++)
    for (let x = 0; x < width; x++, at += 3) {
      sums.fill(0);
      for (let n = 0; n < RAYS * RAYS; n++) {
        const across = (x + ((n % RAYS) + 0.5) / RAYS - width / 2) * pixel;
        const up = (height - y - (Math.floor(n / RAYS) + 0.5) / RAYS) * pixel;
        skyRadiance(light, across * cos + sin, up, cos - across * sin, seen, true);
        for (let c = 0; c < 3; c++) sums[c] += seen[c];
      }
      for (let c = 0; c < 3; c++)
        rgb[at + c] = 255 * srgbEncode(Math.min(1, (exposure * sums[c]) / RAYS ** 2)) + 0.5;
    }
  return rgb;
}

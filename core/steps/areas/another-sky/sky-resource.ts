/** The picture of a sky as a resource: its light in the working space, at its size and at halves of it. */
import { SRGB_TO_REC2020 } from '../../../colour/primaries.ts';
import { srgbDecode } from '../../../colour/srgb-transfer.ts';
import { type Planes, givePlanesBack, placeOn, takePlanes } from '../../../picture/tile/planes.ts';
import { pyramid } from '../../../picture/tile/halve.ts';
import type { Ask, Resource } from '../../../picture/tile/resource.ts';
import { readStoredSky } from './stored-sky.ts';

export interface SkyPicture {
  /** The largest first, each half as large as the one before. */
  levels: Planes[];
  /** Mean light of it all. */
  mean: [number, number, number];
}

const CODES = 65536;

function makeSky(bytes: Uint8Array): SkyPicture {
  const { width, height, codes } = readStoredSky(bytes);
  const light = Float32Array.from({ length: CODES }, (_, code) => srgbDecode(code / (CODES - 1)));
  const planes = takePlanes(width, height);
  try {
    const [rr, rg, rb, gr, gg, gb, br, bg, bb] = SRGB_TO_REC2020;
    const sums: SkyPicture['mean'] = [0, 0, 0];
    for (let i = 0, at = 0; i < width * height; i++, at += 3) {
      const [r, g, b] = [light[codes[at]], light[codes[at + 1]], light[codes[at + 2]]];
      sums[0] += planes.r[i] = rr * r + rg * g + rb * b;
      sums[1] += planes.g[i] = gr * r + gg * g + gb * b;
      sums[2] += planes.b[i] = br * r + bg * g + bb * b;
    }
    const size = { width, height };
    return {
      levels: pyramid(placeOn(planes, size)).map(({ width, height, r, g, b }) => ({
        width,
        height,
        r,
        g,
        b
      })),
      mean: sums.map((sum) => sum / (width * height)) as SkyPicture['mean']
    };
  } catch (error) {
    givePlanesBack(planes);
    throw error;
  }
}

export const skyResource: Resource<'sky', { id: string }, SkyPicture> = {
  name: 'sky',
  of: 'all',
  stored: ({ id }) => `skies/${id}`,
  make: ({ bytes }) => makeSky(bytes!),
  memory: ({ levels }) => levels.flatMap(({ r, g, b }) => [r, g, b]),
  missing:
    'The sky that this frame was given is not known here. Take its picture in again, or choose another on the page Sky of Areas.'
};

export const askForSky = (id: string): Ask<'sky', { id: string }> => ({ resource: 'sky', data: { id } });

/**
 * The working space to encoded values, 0..1, of the space that a picture leaves in. What that cannot hold is brought to its edge at
 * constant hue and lightness.
 */
import { STEPS, encodingTable } from '../../colour/look-up-table.ts';
import { gamutNumbers } from '../../colour/oklab.ts';
import { REC2020_TO_SRGB } from '../../colour/primaries.ts';
import { type OutputSpace, RGB_SPACES, betweenSpaces } from '../../colour/rgb-spaces.ts';
import { keptTable } from '../kernels/heap.ts';
import { kernels } from '../kernels/kernels.ts';
import { multiply } from '../../math/matrix3.ts';
import { addresses } from '../tile/planes.ts';
import { FIRST_RENDITION, type Rendition } from '../../settings/rendition.ts';
import type { PixelStage } from '../tile/stage.ts';

interface Given {
  space: OutputSpace;
  recipe: { rendition: Rendition };
}

export interface EncodeData {
  space: OutputSpace;
  /** Whether colours are cut one by one, as the first rendition did. */
  cuts: boolean;
}

export const encodeStage: PixelStage<'encode', Given, EncodeData> = {
  name: 'encode',
  kind: 'pixel',
  prepare: ({ space, recipe: { rendition } }) => ({ space, cuts: rendition === FIRST_RENDITION }),
  begin(_, { space, cuts }, arena) {
    const table = keptTable(encodingTable(space));
    const toSpace = multiply(betweenSpaces(RGB_SPACES.srgb, RGB_SPACES[space]), REC2020_TO_SRGB);
    const matrix = arena.addressOf(toSpace);
    const gamut = arena.addressOf(gamutNumbers(toSpace));
    const { lookUpPlane, mapIntoGamut, mixColours } = kernels();
    return (rows) => {
      const { length } = rows.r;
      const planes = addresses(rows);
      mixColours(...planes, length, matrix, Infinity);
      if (!cuts) mapIntoGamut(...planes, length, gamut);
      for (const plane of planes) lookUpPlane(plane, length, table, STEPS, 0);
    };
  }
};

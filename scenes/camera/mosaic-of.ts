import type { Mosaic } from '../../core/picture/raw/mosaic.ts';
import { BLACK, type Capture, WHITE } from './capture.ts';
import { WHITE_RESPONSE } from './colour.ts';

/** A picture of the demo camera as its file is unpacked, balanced for the white that it names. */
export function mosaicOf({ data, width, height, turns }: Capture): Mosaic {
  const most = Math.max(...WHITE_RESPONSE);
  return {
    data,
    stride: width,
    left: 0,
    top: 0,
    width,
    height,
    pattern: [0, 1, 1, 2],
    black: BLACK,
    white: WHITE,
    multipliers: WHITE_RESPONSE.map((response) => most / response) as [number, number, number],
    turns
  };
}

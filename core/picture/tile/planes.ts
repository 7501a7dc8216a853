import { addressOf, giveBack, takeFloat32, takenTogether } from '../kernels/heap.ts';
import type { FrameSize } from '../../math/frame-geometry.ts';

/**
 * A picture in planes: the file's own red, green and blue (white-balanced), 1 is white. Up to white the values are linear,
 * above it logarithmic (`highlights.ts`). Colours are mixed only after the one resampling, because the lens lays each of the
 * sensor's colours elsewhere. It may be a part of the sensor (a tile) or a reduction of it (the proxy): a sensor position p
 * lies at (p - origin) · scale in its pixels.
 */
export interface Planes {
  width: number;
  height: number;
  r: Float32Array;
  g: Float32Array;
  b: Float32Array;
}

export interface PlacedPlanes extends Planes {
  originX: number;
  originY: number;
  /** Pixels of this picture per sensor pixel, across and down. */
  scaleX: number;
  scaleY: number;
}

/** Planes of a whole sensor of a size, reduced or not. */
export const placeOn = (planes: Planes, { width, height }: FrameSize): PlacedPlanes => ({
  ...planes,
  originX: 0,
  originY: 0,
  scaleX: planes.width / width,
  scaleY: planes.height / height
});

/** Planes in the memory that threads share, with whatever was last in it; `givePlanesBack` frees it. */
export const takePlanes = (width: number, height: number): Planes =>
  takenTogether((own) => ({
    width,
    height,
    r: own(takeFloat32(width * height)),
    g: own(takeFloat32(width * height)),
    b: own(takeFloat32(width * height))
  }));

/** The same, all of it 0. */
export function allocatePlanes(width: number, height: number): Planes {
  const planes = takePlanes(width, height);
  for (const plane of [planes.r, planes.g, planes.b]) plane.fill(0);
  return planes;
}

export const givePlanesBack = ({ r, g, b }: Pick<Planes, 'r' | 'g' | 'b'>): void => giveBack(r, g, b);

/** Addresses of the planes, `first` values from their beginning. */
export const addresses = (
  { r, g, b }: Pick<Planes, 'r' | 'g' | 'b'>,
  first = 0
): [r: number, g: number, b: number] => [
  addressOf(r) + first * 4,
  addressOf(g) + first * 4,
  addressOf(b) + first * 4
];

import type { FrameSize } from '../math/frame-geometry.ts';

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

export function allocatePlanes(width: number, height: number, shared = false): Planes {
  const bytes = width * height * 4;
  const plane = (): Float32Array =>
    new Float32Array(
      shared ? (new SharedArrayBuffer(bytes) as unknown as ArrayBuffer) : new ArrayBuffer(bytes)
    );
  return { width, height, r: plane(), g: plane(), b: plane() };
}

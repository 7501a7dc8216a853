import type { Vector3 } from '../../math/vector3.ts';

/**
 * The broad light of a frame, on a grid over the whole of it in field coordinates: `light/measure-light.ts` makes it. Its
 * memory is the maker's to give back.
 */
export interface FrameLight {
  width: number;
  height: number;
  /** Each cell: slopes of the four bases, then their offsets; stops of luminance to stops. */
  bases: Float32Array;
  /** Each cell: slope and offset of the share of light that is haze, by stops of luminance. */
  haze: Float32Array;
  /** Colour of the air, in the working space. */
  air: Vector3;
  /** Stops of luminance of each cell, and its colours in the working space as shot. */
  stops: Float32Array;
  colours: readonly [Float32Array, Float32Array, Float32Array];
}

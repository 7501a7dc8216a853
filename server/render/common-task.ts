/** Two frames whose light is compared by what they show in common. */
import type { FrameSize } from '../../core/math/frame-geometry.ts';
import type { Falloff } from '../../core/optics/falloff.ts';
import type { PlacedPlanes } from '../../core/picture/tile/planes.ts';

interface Compared {
  planes: PlacedPlanes;
  /** What evens its light towards the corners. */
  falloff: Falloff | null;
  /** Of the whole frame. */
  size: FrameSize;
}

export interface CommonTask {
  like: Compared;
  frame: Compared;
}

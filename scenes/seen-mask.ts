/** What the demo camera truly sees where: the share of each cell of its picture that shows something. */
import { type FrameSize, halfDiagonal } from '../core/math/frame-geometry.ts';
import { rotationFromAngles } from '../core/math/rotation.ts';
import { undistort } from '../core/optics/lens-model.ts';
import { type CameraSetup, setupLens } from './camera/capture.ts';
import type { Colour } from './trace/materials.ts';
import { type LitScene, radiance } from './trace/shade.ts';

/** What a ray meets: a rectangle of the scene by its number, or the sky. */
export const SKY = -1;

/** Rays across and down a cell. */
const RAYS = 2;

/** Shares of 0..1, row by row; `size` is that of the grid over the whole picture. */
export function seenMask(
  lit: LitScene,
  setup: CameraSetup,
  size: FrameSize,
  isMeant: (seen: number) => boolean
): Float32Array {
  const { model, focal } = setupLens(setup);
  const unit = halfDiagonal(size);
  const m = rotationFromAngles(setup.angles);
  const [ox, oy, oz] = setup.position;
  const colour: Colour = [0, 0, 0];
  const seenAt = (x: number, y: number): number => {
    const [u, v] = undistort([(x - size.width / 2) / unit, (y - size.height / 2) / unit], model).map(
      (each) => each / focal
    );
    const l = 1 / Math.hypot(u, v, 1);
    const [dx, dy, dz] = [0, 3, 6].map((i) => (m[i] * u + m[i + 1] * v + m[i + 2]) * l);
    return radiance(lit, ox, oy, oz, dx, -dy, dz, 1 / (focal * unit), colour);
  };
  const out = new Float32Array(size.width * size.height);
  for (let y = 0; y < size.height; y++)
    for (let x = 0; x < size.width; x++) {
      let count = 0;
      for (let i = 0; i < RAYS * RAYS; i++) {
        const [px, py] = [x + ((i % RAYS) + 0.5) / RAYS, y + (Math.floor(i / RAYS) + 0.5) / RAYS];
        if (isMeant(seenAt(px, py))) count++;
      }
      out[y * size.width + x] = count / RAYS ** 2;
    }
  return out;
}

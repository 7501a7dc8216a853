/** Photographs with more in the way of measuring than the demo's: for figures and tests of what is found by itself. */
import { waterfront } from './buildings/waterfront.ts';
import type { CameraSetup } from './camera/capture.ts';
import { LENSES } from './camera/lenses.ts';
import type { DemoFrame } from './demo-frames.ts';
import { seededRandom } from '../core/math/random.ts';
import type { Vector } from './trace/scene.ts';

const PLACES: readonly { position: Vector; yaw: number; focalLength: number; lens: CameraSetup['lens'] }[] = [
  { position: [-6, 1.65, -30], yaw: -8, focalLength: 24, lens: LENSES.wide },
  { position: [2.5, 1.7, -24], yaw: -22, focalLength: 24, lens: LENSES.wide },
  { position: [-20, 1.6, -27], yaw: 10, focalLength: 20, lens: LENSES.zoom },
  { position: [-27, 1.7, -22], yaw: 3, focalLength: 16, lens: LENSES.zoom }
];

/** So many frames, turned by chance: pitch −6 to 22°, roll within 3°. */
export function harderFrames(count: number, seed = 3): DemoFrame[] {
  const random = seededRandom(seed);
  const between = (low: number, high: number): number => low + (high - low) * random();
  return Array.from({ length: count }, (_, i): DemoFrame => {
    const { position, yaw, focalLength, lens } = PLACES[i % PLACES.length];
    const angles = { roll: between(-3, 3), pitch: between(-6, 22), yaw: yaw + between(-4, 4) };
    return {
      file: `QUAY_${String(i + 1).padStart(4, '0')}.dng`,
      job: '',
      scene: waterfront,
      setup: { position, angles, lens, focalLength, seed: 900 + i, compensation: -0.3 },
      exposureTime: [1, 200],
      iso: 100,
      taken: '2026:06:03 10:00:00'
    };
  });
}

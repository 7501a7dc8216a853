import { capture } from './camera/capture.ts';
import { writeDng } from './camera/dng.ts';
import { type DemoFrame, dngFacts, setupAt } from './demo-frames.ts';
import { buildBvh } from './trace/bvh.ts';
import { bakeLight } from './trace/light-map.ts';
import type { Scene } from './trace/scene.ts';
import type { LitScene } from './trace/shade.ts';

/** Any seed: light is the same for every frame of a scene. */
const LIGHT_SEED = 1;

export function lightScene(scene: Scene): LitScene {
  const bvh = buildBvh(scene.quads);
  return { scene, bvh, maps: bakeLight(scene, bvh, LIGHT_SEED) };
}

let lit: { of: DemoFrame['scene']; scene: LitScene } | null = null;

/**
 * Takes one demo frame, `long` pixels on its long edge; returns the bytes of its DNG. The light of the last scene
 * is kept, since frames of one building follow each other.
 */
export function takeFrame(frame: DemoFrame, long: number): Uint8Array {
  if (lit?.of !== frame.scene) lit = { of: frame.scene, scene: lightScene(frame.scene()) };
  return writeDng(capture(lit.scene, setupAt(frame, long)), dngFacts(frame));
}

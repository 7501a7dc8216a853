import { capture } from './camera/capture.ts';
import { writeDng } from './camera/dng.ts';
import { type DemoFrame, dngFacts, setupAt } from './demo-frames.ts';
import { buildBvh } from './trace/bvh.ts';
import { bakeLight } from './trace/light-map.ts';

/** Lights and takes one demo frame, `long` pixels on its long edge; returns the bytes of its DNG. */
export function takeFrame(frame: DemoFrame, long: number): Uint8Array {
  const scene = frame.scene();
  const bvh = buildBvh(scene.quads);
  const maps = bakeLight(scene, bvh, frame.setup.seed);
  return writeDng(capture({ scene, bvh, maps }, setupAt(frame, long)), dngFacts(frame));
}

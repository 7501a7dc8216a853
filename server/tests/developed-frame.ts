/** Frames of the demo camera taken and developed as a file is, for tests and figures of what is found in them. */
import type { GreyPlane } from '../../core/measure/edges/trace-polyline.ts';
import { developBand } from '../../core/picture/raw/develop.ts';
import { type Planes, allocatePlanes } from '../../core/picture/tile/planes.ts';
import type { DemoFrame } from '../../scenes/demo-frames.ts';
import { takeFrame } from '../../scenes/take-frame.ts';
import { decodeFile } from '../decode/decode-file.ts';

/** Developed planes of a frame that is not stored turned, `long` pixels on its long edge; the caller gives them back. */
export async function developedFrame(frame: DemoFrame, long: number): Promise<Planes> {
  const decoded = await decodeFile(takeFrame(frame, long), frame.file);
  if (decoded.kind !== 'mosaic') throw new Error('The demo camera writes mosaics.');
  const { width, height } = decoded.facts.size;
  const planes = allocatePlanes(width, height);
  developBand(decoded.mosaic, planes, 0, height);
  return planes;
}

/** Green light up to white, in memory of its own. */
export const clippedGreen = ({ width, height, g }: Planes): GreyPlane => ({
  width,
  height,
  data: g.map((value) => Math.min(1, value))
});

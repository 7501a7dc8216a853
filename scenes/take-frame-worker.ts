/** What a thread of the demo camera does. */
import { DEMO_FRAMES } from './demo-frames.ts';
import { takeFrame } from './take-frame.ts';

export default ({ index, long }: { index: number; long: number }): Uint8Array =>
  takeFrame(DEMO_FRAMES[index], long);

// Threads do not inherit the TypeScript loader of the main thread: it is registered here, then the work comes in.
import { register } from 'tsx/esm/api';

register();
const { DEMO_FRAMES } = await import('./demo-frames.ts');
const { takeFrame } = await import('./take-frame.ts');

export default ({ index, long }) => takeFrame(DEMO_FRAMES[index], long);

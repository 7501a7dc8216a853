/** Patches in as few passes as they need: in a pass, none reads or writes what another of it writes. */
import type { FrameSize } from '../../math/frame-geometry.ts';
import { type Box, overlap, readBoxes, writtenBox } from './box.ts';
import type { Patch } from './patch.ts';

export interface Pass {
  size: FrameSize;
  patches: readonly Patch[];
}

/** In their order: a patch that is laid over another comes in a later pass. */
export function passesOf(patches: readonly Patch[], size: FrameSize): Pass[] {
  const passes: { patches: Patch[]; written: Box[] }[] = [];
  for (const patch of patches) {
    const [reads, written] = [readBoxes(patch, size), writtenBox(patch, size)];
    let last = passes.at(-1);
    const meets = last?.written.some((box) => [written, ...reads].some((each) => overlap(each, box)));
    if (!last || meets) passes.push((last = { patches: [], written: [] }));
    last.patches.push(patch);
    last.written.push(written);
  }
  return passes.map((pass) => ({ size, patches: pass.patches }));
}

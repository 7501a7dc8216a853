import type { PatchKind } from '$core/steps/mend/patch.ts';
import { stepView } from '../parts/step-view.ts';

/** What a press on the picture does: mends, or moves what is mended already. */
export type MendTool = PatchKind | 'move';

export const mendView = stepView(() => {
  const view = $state({
    tool: 'heal' as MendTool,
    /** What the next place is mended with. */
    brush: { size: 12, feather: 30, opacity: 100 },
    /** The place that is worked on. */
    patch: null as string | null,
    /** Whether the picture is shown so that dust is plain to see. */
    plain: false,
    /** What is being looked for. */
    busy: false,
    said: ''
  });
  return view;
});

/** All kinds of queued work, and what does them: the one place where handlers are registered. */
import type { Context } from './context.ts';
import { deliverFrame } from './deliveries/deliver-frame.ts';
import { measureFrame } from './set/measure-frame.ts';
import { isReceiving } from './frames/receiving.ts';
import { prepareFrame } from './frames/prepare-frame.ts';
import type { WorkKind } from './work/engine.ts';
import { writeHandOver } from './hand-over/write-hand-over.ts';
import { DELIVER, HAND_OVER, MEASURE, PREPARE, type WorkName } from './work/names.ts';

// Two of each: unpacking keeps one core busy, while the other works on what was unpacked before.
export const workKinds = (context: Context): Record<WorkName, WorkKind> => ({
  [PREPARE]: { handle: (work) => prepareFrame(context, work), atOnce: 2, waits: isReceiving },
  // Frames that can be opened come first.
  [MEASURE]: { handle: (work) => measureFrame(context, work), atOnce: 1, after: PREPARE },
  [DELIVER]: { handle: (work) => deliverFrame(context, work), atOnce: 2 },
  [HAND_OVER]: { handle: (work) => writeHandOver(context, work), atOnce: 1 }
});

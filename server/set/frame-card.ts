/** What the job view shows of a frame, beside its row: how its lens is corrected, how plumb it is, whether it wants a look. */
import type { Context } from '../context.ts';
import { type Chooser, openChooser } from '../lenses/lens-choice.ts';
import { handedFrames } from './handed-frames.ts';
import { hasEarlyPicture } from '../frames/early-picture.ts';
import { type FrameRow, framesOfJob } from '../frames/frame-row.ts';
import { type LineReadings, isBeyond, leansOnPurpose, lineReadings } from './line-readings.ts';

export interface FrameCard {
  frame: FrameRow;
  /** How the lens is corrected, in a word or two; null where no profile is known. */
  lens: string | null;
  /** How plumb and how straight it is. */
  readings: LineReadings;
  /** Why it wants a look before it goes out. */
  look: string | null;
  /** Whether there is a picture of it while it is prepared. */
  early: boolean;
  /** That another program has it, or why that program's file was not taken back. */
  handed: { out: boolean; error: string | null };
}

/** Verticals further off than this, in degrees, want a look: buildings themselves are off by two or three tenths. */
const WANTS_LOOK = 0.35;

function lensText({ facts, recipe }: FrameRow, chooser: Chooser): string | null {
  if (!facts) return null;
  if (recipe.lens?.solved) return 'straightened by its edges';
  const named = recipe.lens?.profile ?? 'auto';
  if (named === 'none') return 'lens left as it is';
  if (named !== 'auto' && named !== 'file') return 'profile chosen';
  const { auto, remembered } = named === 'auto' ? chooser.rank(facts) : { auto: null, remembered: false };
  if (auto) return remembered ? 'profile kept for this lens' : 'lens profile';
  return facts.corrections ? 'file’s own corrections' : null;
}

function lookText({ lines_said: said, recipe }: FrameRow, { plumb }: LineReadings): string | null {
  if (said && (!said.ok || said.confidence === 'look')) return said.said;
  if (!isBeyond(plumb, WANTS_LOOK) || leansOnPurpose(recipe)) return null;
  return `Its verticals are off by ${plumb!.rms.toFixed(2)}°.`;
}

/** Cards of a job's frames in their order: all, or some by their ids. */
export async function frameCards(
  context: Context,
  jobId: string,
  ids: readonly string[] | null = null
): Promise<FrameCard[]> {
  const chooser = await openChooser(context);
  const frames = await framesOfJob(context, jobId, ids);
  const handed = await handedFrames(context, jobId);
  return Promise.all(
    frames.map(async (frame) => {
      const readings = await lineReadings(context, frame, chooser);
      const early = frame.state === 'preparing' && (await hasEarlyPicture(context, frame.sha256));
      return {
        frame,
        lens: lensText(frame, chooser),
        readings,
        look: lookText(frame, readings),
        early,
        handed: handed.get(frame.id) ?? { out: false, error: null }
      };
    })
  );
}

/** What the index on the bench shows of a frame: less than the job view, as it is told while work goes on. */
import type { Context } from '../context.ts';
import { frameCards } from './frame-card.ts';
import type { FrameChoiceName, FrameRow } from '../frames/frame-row.ts';

export interface IndexRow {
  id: string;
  name: string;
  version: number;
  state: FrameRow['state'];
  choice: FrameChoiceName;
  plumb: number | null;
  look: boolean;
}

/** Rows of a job's frames in their order: all, or some by their ids. */
export async function indexRows(
  context: Context,
  job: string,
  ids: readonly string[] | null = null
): Promise<IndexRow[]> {
  return (await frameCards(context, job, ids)).map(({ frame, readings, look }) => ({
    id: frame.id,
    name: frame.name,
    version: frame.version,
    state: frame.state,
    choice: frame.choice,
    plumb: readings.plumb?.rms ?? null,
    look: look !== null
  }));
}

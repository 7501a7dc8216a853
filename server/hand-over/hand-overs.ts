/** Handing frames over to another program: what was asked for, and how it stands. */
import {
  type Deliverable,
  completeDeliverable,
  deliverableSchema
} from '../../core/picture/output/deliverable-schema.ts';
import type { Context } from '../context.ts';
import { idsSchema } from '../database/uuid.ts';
import { validator } from '../documents/validator.ts';
import { framesOfJob } from '../frames/frame-row.ts';
import { UserError } from '../user-error.ts';
import { HAND_OVER } from '../work/names.ts';
import { handOverFolder } from './hand-over-folder.ts';

/** What is chosen of the file: the rest is what another program needs. */
export type HandOverSettings = Pick<Deliverable, 'space' | 'depth' | 'sizeKind' | 'width'>;

const { space, depth, sizeKind, width } = deliverableSchema.properties;

export const validHandOver = validator<{ ids: string[]; settings: HandOverSettings }>(
  {
    $id: 'hand-over',
    type: 'object',
    additionalProperties: false,
    required: ['ids', 'settings'],
    properties: {
      ids: idsSchema,
      settings: {
        type: 'object',
        additionalProperties: false,
        required: ['space', 'depth', 'sizeKind', 'width'],
        properties: { space, depth, sizeKind, width }
      }
    }
  },
  'frames'
);

/** The file as a deliverable: a TIFF with all that the file says, without sharpening for an output. */
export const handedDeliverable = (settings: HandOverSettings): Deliverable =>
  completeDeliverable({
    name: 'Hand over',
    format: 'tiff',
    sharpening: 'none',
    metadata: 'all',
    ...settings
  });

export interface HandOver {
  id: string;
  frame_id: string;
  frame: string;
  state: 'queued' | 'out' | 'failed';
  error: string | null;
  /** Path in the folder of all hand-overs. */
  file: string | null;
  width: number | null;
  height: number | null;
  returned_id: string | null;
  handed_at: string;
}

export async function handOversOfJob(
  context: Context,
  jobId: string
): Promise<{ folder: string; rows: HandOver[] }> {
  const { rows } = await context.db.query<HandOver>(
    `select h.id, h.frame_id, f.name as frame, h.state, h.error, h.file, h.width, h.height, h.returned_id, h.handed_at
     from hand_overs h join frames f on f.id = h.frame_id where f.job_id = $1 order by h.handed_at desc, f.name`,
    [jobId]
  );
  return { folder: handOverFolder(context), rows };
}

/** Asks for frames of a job to be handed over as they stand. */
export async function handOver(
  context: Context,
  jobId: string,
  ids: readonly string[],
  settings: HandOverSettings
): Promise<string[]> {
  const frames = (await framesOfJob(context, jobId, ids)).filter(({ state }) => state === 'ready');
  if (frames.length === 0) throw new UserError('Choose at least one frame that is ready.');
  const made: string[] = [];
  for (const { id, recipe } of frames) {
    const { rows } = await context.db.query<{ id: string }>(
      'insert into hand_overs (frame_id, settings, recipe) values ($1, $2, $3) returning id',
      [id, settings, recipe]
    );
    made.push(rows[0].id);
    await context.notices.tell({ job: jobId, frame: id });
  }
  await context.enqueue(HAND_OVER, made);
  return made;
}

/** Waits for a file no longer; it stays where it is. False when there is none. */
export async function forgetHandOver(context: Context, id: string): Promise<boolean> {
  const { rows } = await context.db.query<{ job: string; frame: string }>(
    `delete from hand_overs h using frames f where h.id = $1 and f.id = h.frame_id
     returning f.job_id as job, f.id as frame`,
    [id]
  );
  for (const { job, frame } of rows) await context.notices.tell({ job, frame });
  return rows.length > 0;
}

import type { FrameSize } from '../../core/math/frame-geometry.ts';
import type { PartialRecipe } from '../../core/recipe/recipe.ts';
import type { Confidence } from '../../core/steps/lines/true-up-itself.ts';
import type { Context } from '../context.ts';
import type { Outside } from '../render/outside.ts';
import { readRecipe } from './read-recipe.ts';
import type { FrameFacts } from '../../core/optics/frame-facts.ts';

export const CHOICES = ['chosen', 'undecided', 'left out'] as const;
export type FrameChoiceName = (typeof CHOICES)[number];

export interface FrameRow {
  id: string;
  job_id: string;
  sha256: string;
  name: string;
  state: 'preparing' | 'ready' | 'failed';
  error: string | null;
  facts: FrameFacts | null;
  proxy: FrameSize | null;
  recipe: PartialRecipe;
  version: number;
  /** Whether its edges are measured, and it was trued up as far as its job wants. */
  measured: boolean;
  /** What the frame shows, for file names. */
  room: string;
  /** What it is in its job. */
  choice: FrameChoiceName;
  /** What truing up by itself last said, until the frame is changed otherwise. */
  lines_said: { ok: boolean; said: string; confidence?: Confidence } | null;
  /** Of a frame that came back from another program. */
  outside: Outside | null;
  /** The place that it was given by hand among those of its job; null: none. */
  place: number | null;
}

/** Whether a frame is there and can be worked on. */
export const isReady = (
  frame: FrameRow | null
): frame is FrameRow & { facts: FrameFacts; proxy: FrameSize } => !!frame?.facts && !!frame.proxy;

const COLUMNS =
  'id, job_id, sha256, name, state, error, facts, proxy, recipe, version, room, choice, measured, lines_said, outside, place';

/** Rows as they are stored: the recipe in whatever format it was written in. */
const present = (row: FrameRow): FrameRow => ({ ...row, recipe: readRecipe(row.recipe) });

/** Frames of a job in their order: all, or some by their ids. */
export async function framesOfJob(
  context: Context,
  jobId: string,
  ids: readonly string[] | null = null
): Promise<FrameRow[]> {
  const { rows } = await context.db.query<FrameRow>(
    `select ${COLUMNS} from frames where job_id = $1 and ($2::uuid[] is null or id = any($2))
     order by place nulls last, name, created_at`,
    [jobId, ids]
  );
  return rows.map(present);
}

export async function frameById(context: Context, id: string): Promise<FrameRow | null> {
  const { rows } = await context.db.query<FrameRow>(`select ${COLUMNS} from frames where id = $1`, [id]);
  return rows[0] ? present(rows[0]) : null;
}

export interface FrameChange {
  room?: string;
  choice?: FrameChoiceName;
}

/** Gives frames of a job their order by hand; without any, all of them are by name again. */
export async function orderFrames(context: Context, job: string, ids: readonly string[]): Promise<void> {
  await context.db.query(
    'update frames set place = array_position($2::uuid[], id) where job_id = $1 and (place is not null or id = any($2))',
    [job, ids]
  );
  await context.notices.tell({ job });
}

/** Says of frames of a job what they show, or what they are in it. */
export async function changeFrames(
  context: Context,
  job: string,
  ids: readonly string[],
  { room, choice }: FrameChange
): Promise<void> {
  const { rows } = await context.db.query<{ id: string }>(
    `update frames set room = coalesce($3, room), choice = coalesce($4, choice)
     where job_id = $1 and id = any($2) returning id`,
    [job, ids, room?.trim() ?? null, choice ?? null]
  );
  for (const { id } of rows) await context.notices.tell({ job, frame: id });
}

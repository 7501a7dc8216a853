/** The correction of one frame for others of the same view. */
import type { App } from '../app.ts';
import { UserError } from '../decode/user-error.ts';
import { frameById, framesOfJob } from './frame-row.ts';

/** Replaces the Lines step of other frames of the job, marks and all; their size must be the same. Returns how many. */
export async function carryLines(app: App, fromId: string, toIds: readonly string[]): Promise<number> {
  const from = await frameById(app, fromId);
  if (!from?.facts) throw new UserError('This frame no longer exists.');
  const others = (await framesOfJob(app, from.job_id)).filter(
    (frame) => frame.id !== fromId && toIds.includes(frame.id)
  );
  if (others.length === 0) throw new UserError('Choose at least one other frame of the job.');
  const { width, height } = from.facts.size;
  const other = others.find(({ facts }) => facts && facts.size.width * height !== facts.size.height * width);
  if (other)
    throw new UserError(`${other.name} has another shape than ${from.name}: it cannot be the same view.`);
  const solvedFocal = from.recipe.lens?.solvedFocal ?? null;
  await app.db.query(
    `update frames set version = version + 1, lines_said = null,
       recipe = jsonb_set(
         jsonb_set(recipe, '{lines}', $2::jsonb),
         '{lens}', coalesce(recipe->'lens', '{}') || $3::jsonb)
     where id = any($1)`,
    [
      others.map(({ id }) => id),
      JSON.stringify(from.recipe.lines ?? {}),
      JSON.stringify(solvedFocal === null ? {} : { solvedFocal })
    ]
  );
  return others.length;
}

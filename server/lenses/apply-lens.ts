/** Lens settings for many frames at once. */
import type { PartialRecipe } from '../../core/recipe/recipe.ts';
import type { App } from '../app.ts';
import { UserError } from '../decode/user-error.ts';
import { frameById, framesOfJob } from '../frames/frame-row.ts';
import { choiceKey, rememberChoice } from './lens-choice.ts';

/** Merges lens settings into the recipes of frames; each keeps its own marks. Returns how many were changed. */
async function merge(
  app: App,
  ids: readonly string[],
  lens: NonNullable<PartialRecipe['lens']>
): Promise<number> {
  const { rowCount } = await app.db.query(
    `update frames set version = version + 1,
       recipe = jsonb_set(recipe, '{lens}', coalesce(recipe->'lens', '{}') || $2::jsonb)
     where id = any($1)`,
    [ids, JSON.stringify(lens)]
  );
  return rowCount ?? 0;
}

/** Carries the lens settings of a frame over to others of its job. */
export async function carryLens(app: App, fromId: string, toIds: readonly string[]): Promise<number> {
  const from = await frameById(app, fromId);
  if (!from) throw new UserError('This frame no longer exists.');
  const others = (await framesOfJob(app, from.job_id)).filter(
    (frame) => frame.id !== fromId && toIds.includes(frame.id)
  );
  if (others.length === 0) throw new UserError('Choose at least one other frame of the job.');
  // Marks belong to the picture that they are drawn on.
  const lens = { ...from.recipe.lens };
  delete lens.curves;
  // Replaced whole: what the source leaves at its default is to be default in the others too.
  for (const { id, recipe } of others) {
    const curves = recipe.lens?.curves;
    await app.db.query(
      `update frames set version = version + 1, recipe = jsonb_set(recipe, '{lens}', $2::jsonb) where id = $1`,
      [id, JSON.stringify({ ...lens, ...(curves ? { curves } : {}) })]
    );
  }
  return others.length;
}

/** Gives frames of a job a profile by name (or "auto", "none", "file"). */
export async function giveProfile(
  app: App,
  jobId: string,
  ids: readonly string[],
  profile: string
): Promise<number> {
  const own = (await framesOfJob(app, jobId))
    .filter((frame) => ids.includes(frame.id))
    .map((frame) => frame.id);
  if (own.length === 0) throw new UserError('Choose at least one frame.');
  if (!['auto', 'none', 'file'].includes(profile)) {
    const { rowCount } = await app.db.query('select 1 from lens_profiles where id = $1', [profile]);
    if (!rowCount) throw new UserError('This profile is no longer in the catalogue.');
  }
  return merge(app, own, { profile });
}

/**
 * Remembers a profile for the body and lens text of a frame (null forgets it), and lets every frame of the job that says
 * the same have it. Returns how many frames of the job say the same.
 */
export async function keepForLens(app: App, frameId: string, profileId: string | null): Promise<number> {
  const frame = await frameById(app, frameId);
  if (!frame?.facts) throw new UserError('This frame no longer exists.');
  if (profileId !== null) {
    const { rowCount } = await app.db.query('select 1 from lens_profiles where id = $1', [profileId]);
    if (!rowCount) throw new UserError('This profile is no longer in the catalogue.');
  }
  await rememberChoice(app, frame.facts, profileId);
  const key = JSON.stringify(choiceKey(frame.facts));
  const alike = (await framesOfJob(app, frame.job_id)).filter(
    (other) => other.id !== frameId && other.facts && JSON.stringify(choiceKey(other.facts)) === key
  );
  // A new version lets their thumbnails be made anew.
  if (alike.length > 0)
    await merge(
      app,
      alike.map((other) => other.id),
      { profile: 'auto' }
    );
  return alike.length + 1;
}

/** Lens settings for many frames at once. */
import type { PartialRecipe } from '../../core/recipe/recipe.ts';
import type { Context } from '../context.ts';
import { UserError } from '../user-error.ts';
import { frameById, framesOfJob } from '../frames/frame-row.ts';
import { type SetChange, changeRecipes } from '../recipes/write-recipe.ts';
import { choiceKey, rememberChoice } from './lens-choice.ts';

const withProfile =
  (profile: string) =>
  (recipe: PartialRecipe): PartialRecipe => ({ ...recipe, lens: { ...recipe.lens, profile } });

/** Gives frames of a job a profile by name (or "auto", "none", "file"). */
export async function giveProfile(
  context: Context,
  jobId: string,
  ids: readonly string[],
  profile: string
): Promise<SetChange> {
  const own = (await framesOfJob(context, jobId))
    .filter((frame) => ids.includes(frame.id))
    .map((frame) => frame.id);
  if (own.length === 0) throw new UserError('Choose at least one frame.');
  if (!['auto', 'none', 'file'].includes(profile)) {
    const { rowCount } = await context.db.query('select 1 from lens_profiles where id = $1', [profile]);
    if (!rowCount) throw new UserError('This profile is no longer in the catalogue.');
  }
  return changeRecipes(context, own, withProfile(profile));
}

/**
 * Remembers a profile for the body and lens text of a frame (null forgets it), and lets every frame of the job that says
 * the same have it. Returns how many frames of the job say the same.
 */
export async function keepForLens(
  context: Context,
  frameId: string,
  profileId: string | null
): Promise<number> {
  const frame = await frameById(context, frameId);
  if (!frame?.facts) throw new UserError('This frame no longer exists.');
  if (profileId !== null) {
    const { rowCount } = await context.db.query('select 1 from lens_profiles where id = $1', [profileId]);
    if (!rowCount) throw new UserError('This profile is no longer in the catalogue.');
  }
  await rememberChoice(context, frame.facts, profileId);
  const key = JSON.stringify(choiceKey(frame.facts));
  const alike = (await framesOfJob(context, frame.job_id)).filter(
    (other) => other.id !== frameId && other.facts && JSON.stringify(choiceKey(other.facts)) === key
  );
  // A new version lets their thumbnails be made anew.
  if (alike.length > 0)
    await changeRecipes(
      context,
      alike.map((other) => other.id),
      withProfile('auto')
    );
  return alike.length + 1;
}

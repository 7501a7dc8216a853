/** House settings of this installation: kept, renamed, written to a file and taken from one, and laid over frames of a job. */
import { type HouseSettings, withHouseSettings } from '../../core/recipe/house-settings.ts';
import type { Context } from '../context.ts';
import { UUID } from '../database/uuid.ts';
import { inTransaction } from '../database/transaction.ts';
import { framesOfJob } from '../frames/frame-row.ts';
import { readRecipe } from '../frames/read-recipe.ts';
import { UserError } from '../user-error.ts';
import { HOUSE_FILE, soundHouseFile, stepsAlone, validHouseSettings } from './house-file.ts';
import { type SetChange, changeRecipes } from './write-recipe.ts';

export interface HouseRow extends HouseSettings {
  id: string;
}

const present = (row: HouseRow): HouseRow => ({ ...row, steps: stepsAlone(readRecipe(row.steps)) });

export async function listHouseSettings({ db }: Context): Promise<HouseRow[]> {
  const { rows } = await db.query<HouseRow>(
    'select id, name, folder, steps from house_settings order by folder, name, made_at'
  );
  return rows.map(present);
}

export async function keepHouseSettings({ db }: Context, input: unknown): Promise<string> {
  const { name, folder, steps } = validHouseSettings(input);
  const { rows } = await db.query<{ id: string }>(
    'insert into house_settings (name, folder, steps) values ($1, $2, $3) returning id',
    [name, folder, JSON.stringify(steps)]
  );
  return rows[0].id;
}

/** Renames a set, or puts it into another folder. False when there is none. */
export async function moveHouseSettings(
  { db }: Context,
  id: string,
  { name, folder }: { name?: string; folder?: string }
): Promise<boolean> {
  const { rowCount } = await db.query(
    'update house_settings set name = coalesce($2, name), folder = coalesce($3, folder) where id = $1',
    [id, name?.trim() || null, folder?.trim() ?? null]
  );
  return rowCount === 1;
}

export async function removeHouseSettings({ db }: Context, id: string): Promise<boolean> {
  const { rowCount } = await db.query('delete from house_settings where id = $1', [id]);
  return rowCount === 1;
}

/** All of them, or one, as a file. */
export async function houseFile(context: Context, id: string | null): Promise<object> {
  const rows = await listHouseSettings(context);
  const wanted = id === null ? rows : rows.filter((row) => row.id === id);
  return {
    format: HOUSE_FILE,
    version: 1,
    sets: wanted.map(({ name, folder, steps }) => ({ name, folder, steps }))
  };
}

/** Takes in the sets of a file: all of them, or none where one cannot be used. */
export async function importHouseSettings(context: Context, file: unknown): Promise<number> {
  const valid = soundHouseFile(file);
  await inTransaction(context.db, async (client) => {
    for (const { name, folder, steps } of valid)
      await client.query('insert into house_settings (name, folder, steps) values ($1, $2, $3)', [
        name,
        folder,
        JSON.stringify(steps)
      ]);
  });
  return valid.length;
}

/** Lays a set over frames of a job. */
export async function applyHouseSettings(
  context: Context,
  jobId: string,
  { set, frames, amount }: { set: string; frames: readonly string[]; amount: number }
): Promise<SetChange> {
  const found = UUID.test(set) && (await listHouseSettings(context)).find(({ id }) => id === set);
  if (!found) throw new UserError('These house settings no longer exist. Choose others.');
  const ids = (await framesOfJob(context, jobId)).map(({ id }) => id).filter((id) => frames.includes(id));
  if (ids.length === 0) throw new UserError('Choose at least one frame of the job.');
  return changeRecipes(context, ids, (recipe) => withHouseSettings(recipe, found.steps, amount));
}

/**
 * The only writer of frames' recipes. Every change is made over the version that it was made from: of two at once, one is
 * told of the other, or made again over it.
 */
import equal from 'fast-deep-equal';
import type { PartialRecipe } from '../../core/recipe/recipe.ts';
import type { Context } from '../context.ts';
import { inTransaction } from '../database/transaction.ts';
import { type FrameRow, frameById } from '../frames/frame-row.ts';
import { storedRecipe } from '../frames/read-recipe.ts';
import { type HistoryChange, keepStates } from './history.ts';

export type Saved =
  { saved: true; version: number } | { saved: false; version: number; recipe: PartialRecipe };

export interface WriteOptions {
  /** What truing up by itself says of the recipe; what it said of an earlier one no longer holds. */
  said?: FrameRow['lines_said'];
  /** What became of the states that the recipe went through. */
  history?: HistoryChange | null;
}

async function writeOver(
  context: Context,
  frame: FrameRow,
  recipe: PartialRecipe,
  { said, history = null }: WriteOptions
): Promise<number | null> {
  const keeps = said === undefined && equal(frame.recipe.lines ?? {}, recipe.lines ?? {});
  const version = await inTransaction(context.db, async (client) => {
    const { rows } = await client.query<{ version: number; state_at: number | null }>(
      `update frames set recipe = $3, profile = $4, look = $5, version = version + 1,
         lines_said = case when $6 then lines_said else $7::jsonb end
       where id = $1 and version = $2 returning version, state_at`,
      [
        frame.id,
        frame.version,
        storedRecipe(recipe),
        recipe.lens?.profile ?? 'auto',
        recipe.colour?.look ?? null,
        keeps,
        said ? JSON.stringify(said) : null
      ]
    );
    if (rows.length === 0) return null;
    await keepStates(client, { ...frame, state_at: rows[0].state_at }, recipe, history);
    return rows[0].version;
  });
  if (version !== null) await context.notices.tell({ job: frame.job_id, frame: frame.id });
  return version;
}

/** Saves a recipe over the version it was made from; tells of a newer one instead of overwriting it. */
export async function saveRecipe(
  context: Context,
  id: string,
  version: number,
  recipe: PartialRecipe,
  options: WriteOptions = {}
): Promise<Saved | null> {
  const current = await frameById(context, id);
  if (!current) return null;
  const saved = current.version === version ? await writeOver(context, current, recipe, options) : null;
  if (saved !== null) return { saved: true, version: saved };
  const newer = await frameById(context, id);
  return newer && { saved: false, version: newer.version, recipe: newer.recipe };
}

/** Times that a change is made again over one that came between; more would mean that something never rests. */
const MOST_TRIES = 20;

/** A frame whose recipe became another one, and the version that it has since. */
export interface Changed {
  id: string;
  version: number;
}

export interface SetChange {
  /** Frames that are as was wanted now, also those that were so before. */
  frames: number;
  /** Those of them that were otherwise. */
  changed: Changed[];
}

/** Changes the recipes of frames, each as it stands then. */
export async function changeRecipes(
  context: Context,
  ids: readonly string[],
  change: (recipe: PartialRecipe, frame: FrameRow) => PartialRecipe | Promise<PartialRecipe>
): Promise<SetChange> {
  const done: SetChange = { frames: 0, changed: [] };
  for (const id of ids) {
    for (let tries = 0; ; tries++) {
      const frame = await frameById(context, id);
      if (!frame) break;
      const recipe = await change(frame.recipe, frame);
      const version = await writeOver(context, frame, recipe, {});
      if (version !== null) {
        done.frames++;
        if (!equal(storedRecipe(frame.recipe), storedRecipe(recipe))) done.changed.push({ id, version });
        break;
      }
      if (tries === MOST_TRIES) throw new Error(`The recipe of ${frame.name} never came to rest.`);
    }
  }
  return done;
}

/** States that a frame's recipe went through, kept with it: the bench walks through them, also after a reload. */
import equal from 'fast-deep-equal';
import type { PoolClient } from 'pg';
import type { PartialRecipe } from '../../core/recipe/recipe.ts';
import type { Context } from '../context.ts';
import { readRecipe, storedRecipe } from '../frames/read-recipe.ts';
import { UserError } from '../user-error.ts';

/** States that are kept before the one in hand. */
export const MOST_STATES = 200;

/** What became of the states: those from a position on are replaced, and the frame is in the one at another. */
export interface HistoryChange {
  from: number;
  states: readonly PartialRecipe[];
  at: number;
}

export interface KeptHistory {
  /** Position of the first state. */
  first: number;
  /** Position of the state in hand; null where no state was kept. */
  at: number | null;
  states: { recipe: PartialRecipe; made: string }[];
}

/** What a request tells of a history, its recipes as they are; throws a UserError. */
export function soundChange(value: unknown, sound: (recipe: unknown) => PartialRecipe): HistoryChange {
  const { from, states, at } = (value ?? {}) as Record<string, unknown>;
  const isPosition = (n: unknown): n is number =>
    Number.isInteger(n) && (n as number) >= 0 && (n as number) < 1e9;
  if (!isPosition(from) || !isPosition(at) || !Array.isArray(states) || states.length > MOST_STATES + 1)
    throw new UserError('The history of the recipe is not whole. Reload the page.');
  return { from, at, states: states.map(sound) };
}

/**
 * Keeps the states that a change leads to, in the transaction that saves it. Without word of them a recipe is the state after
 * the one that the frame was in.
 */
export async function keepStates(
  client: PoolClient,
  frame: { id: string; recipe: PartialRecipe; state_at: number | null },
  recipe: PartialRecipe,
  change: HistoryChange | null
): Promise<void> {
  const at = frame.state_at;
  // What is saved as it stands is no step.
  if (!change && equal(storedRecipe(frame.recipe), storedRecipe(recipe))) return;
  const {
    from,
    states,
    at: wanted
  } = change ??
  (at === null
    ? { from: 0, states: [frame.recipe, recipe], at: 1 }
    : { from: at + 1, states: [recipe], at: at + 1 });
  await client.query('delete from frame_states where frame_id = $1 and position >= $2', [frame.id, from]);
  await client.query(
    `insert into frame_states (frame_id, position, recipe)
     select $1, $2 + ordinality - 1, value from jsonb_array_elements($3::jsonb) with ordinality`,
    [frame.id, from, JSON.stringify(states.map(storedRecipe))]
  );
  const { rowCount } = await client.query(
    `update frames set state_at = $2 where id = $1
       and exists (select 1 from frame_states where frame_id = $1 and position = $2)`,
    [frame.id, wanted]
  );
  if (rowCount === 0) throw new UserError('The history of the recipe is not whole. Reload the page.');
  await client.query('delete from frame_states where frame_id = $1 and position < $2', [
    frame.id,
    wanted - MOST_STATES
  ]);
}

/** The state before the one that a frame is in, and its position; null where there is none. */
export async function stateBefore(
  context: Context,
  frameId: string
): Promise<{ at: number; recipe: PartialRecipe } | null> {
  const { rows } = await context.db.query<{ at: number; recipe: unknown }>(
    `select s.position as at, s.recipe from frame_states s join frames f on f.id = s.frame_id
     where f.id = $1 and s.position = f.state_at - 1`,
    [frameId]
  );
  return rows.length === 0 ? null : { at: rows[0].at, recipe: readRecipe(rows[0].recipe) };
}

export async function historyOf(context: Context, frameId: string): Promise<KeptHistory> {
  const { rows } = await context.db.query<{ position: number; recipe: unknown; made_at: Date; at: number }>(
    `select s.position, s.recipe, s.made_at, f.state_at as at
     from frame_states s join frames f on f.id = s.frame_id where f.id = $1 order by s.position`,
    [frameId]
  );
  return {
    first: rows[0]?.position ?? 0,
    at: rows[0]?.at ?? null,
    states: rows.map(({ recipe, made_at }) => ({ recipe: readRecipe(recipe), made: made_at.toISOString() }))
  };
}

/** States of a frame that are kept by a letter and a name; those that are marked are delivered. */
import type { PartialRecipe } from '../../core/recipe/recipe.ts';
import type { Context } from '../context.ts';
import { inTransaction } from '../database/transaction.ts';
import { frameById } from '../frames/frame-row.ts';
import { readRecipe, storedRecipe } from '../frames/read-recipe.ts';
import { UserError } from '../user-error.ts';

export interface Revision {
  id: string;
  frame_id: string;
  letter: string;
  name: string;
  recipe: PartialRecipe;
  for_delivery: boolean;
}

const MOST_REVISIONS = 26;
const MOST_NAME = 80;
const letterAt = (i: number): string => String.fromCharCode(65 + i);
const present = (row: Revision): Revision => ({ ...row, recipe: readRecipe(row.recipe) });
const COLUMNS = 'id, frame_id, letter, name, recipe, for_delivery';

export async function revisionsOf(context: Context, frameId: string): Promise<Revision[]> {
  const { rows } = await context.db.query<Revision>(
    `select ${COLUMNS} from revisions where frame_id = $1 order by letter`,
    [frameId]
  );
  return rows.map(present);
}

/** Keeps a state under the first free letter. */
export async function keepRevision(
  context: Context,
  frameId: string,
  recipe: PartialRecipe,
  name = ''
): Promise<Revision> {
  return inTransaction(context.db, async (client) => {
    // Two at once would take the same letter.
    const { rowCount } = await client.query('select 1 from frames where id = $1 for update', [frameId]);
    if (!rowCount) throw new UserError('This frame no longer exists.');
    const { rows } = await client.query<{ letter: string }>(
      'select letter from revisions where frame_id = $1',
      [frameId]
    );
    const taken = new Set(rows.map(({ letter }) => letter));
    const letter = Array.from({ length: MOST_REVISIONS }, (_, i) => letterAt(i)).find(
      (each) => !taken.has(each)
    );
    if (!letter)
      throw new UserError(`A frame has up to ${MOST_REVISIONS} revisions. Delete one that is not needed.`);
    const made = await client.query<Revision>(
      `insert into revisions (frame_id, letter, name, recipe) values ($1, $2, $3, $4) returning ${COLUMNS}`,
      [frameId, letter, name.trim().slice(0, MOST_NAME), storedRecipe(recipe)]
    );
    return present(made.rows[0]);
  });
}

export interface RevisionChange {
  name?: string;
  forDelivery?: boolean;
}

/** Names a revision, or marks it for delivery. False when there is none. */
export async function changeRevision(
  context: Context,
  frameId: string,
  id: string,
  { name, forDelivery }: RevisionChange
): Promise<boolean> {
  const found = await inTransaction(context.db, async (client) => {
    // Changes of one frame's revisions take turns: two that mark at once would wait for each other.
    await client.query('select 1 from frames where id = $1 for update', [frameId]);
    const held = await client.query('select 1 from revisions where id = $1 and frame_id = $2', [id, frameId]);
    if (!held.rowCount) return false;
    if (name !== undefined)
      await client.query('update revisions set name = $2 where id = $1', [
        id,
        name.trim().slice(0, MOST_NAME)
      ]);
    if (forDelivery !== undefined)
      await client.query('update revisions set for_delivery = $2 where id = $1', [id, forDelivery]);
    return true;
  });
  if (found) await tellOf(context, frameId);
  return found;
}

export async function removeRevision(context: Context, frameId: string, id: string): Promise<boolean> {
  const { rowCount } = await context.db.query('delete from revisions where id = $1 and frame_id = $2', [
    id,
    frameId
  ]);
  if (rowCount) await tellOf(context, frameId);
  return Boolean(rowCount);
}

/** What is delivered of the frame may be another state now. */
async function tellOf(context: Context, frameId: string): Promise<void> {
  const frame = await frameById(context, frameId);
  if (frame) await context.notices.tell({ job: frame.job_id, frame: frame.id });
}

/** The revisions that are marked for delivery, by their frames and in the order of their letters. */
export async function revisionsForDelivery(
  context: Context,
  frameIds: readonly string[]
): Promise<Map<string, Revision[]>> {
  const { rows } = await context.db.query<Revision>(
    `select ${COLUMNS} from revisions where for_delivery and frame_id = any($1) order by letter`,
    [frameIds]
  );
  const marked = new Map<string, Revision[]>();
  for (const row of rows) marked.set(row.frame_id, [...(marked.get(row.frame_id) ?? []), present(row)]);
  return marked;
}

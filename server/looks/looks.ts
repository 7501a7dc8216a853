/** Looks that recipes can name: our own, and those that were imported. */
import { createHash } from 'node:crypto';
import type { Look, LookSpace } from '../../core/steps/colour/looks/look.ts';
import { SHIPPED_LOOKS } from '../../core/steps/colour/looks/shipped-looks.ts';
import { storeLook } from '../../core/steps/colour/looks/stored-look.ts';
import type { Context } from '../context.ts';
import { storedSky } from '../skies/skies.ts';
import { UUID } from '../database/uuid.ts';
import { UserError } from '../user-error.ts';
import { shippedBytes } from '../render/shipped-bytes.ts';

export interface LookCard {
  id: string;
  name: string;
  kind: Look['kind'];
  size: number;
  space: LookSpace;
  /** One of our own. */
  shipped: boolean;
}

const shippedCards = (): LookCard[] =>
  Object.entries(SHIPPED_LOOKS).map(([id, make]) => {
    const { name, kind, size, space } = make();
    return { id, name, kind, size, space, shipped: true };
  });

export async function listLooks({ db }: Context): Promise<LookCard[]> {
  const { rows } = await db.query<Omit<LookCard, 'shipped'>>(
    'select id, name, kind, size, space from looks order by name, created_at'
  );
  return [...shippedCards(), ...rows.map((row) => ({ ...row, shipped: false }))];
}

/** The bytes of a look, or null where there is none. */
export async function storedLook({ db }: Context, id: string): Promise<Uint8Array | null> {
  const own = await shippedBytes(`looks/${id}`);
  if (own) return own;
  if (!UUID.test(id)) return null;
  const { rows } = await db.query<{ stored: Buffer }>('select stored from looks where id = $1', [id]);
  return rows[0]?.stored ?? null;
}

/** The bytes that a resource is made from, by the path that it names; null where there are none. */
export async function storedBytes(context: Context, path: string): Promise<Uint8Array | null> {
  const [kind, id] = path.split('/');
  if (kind === 'skies') return storedSky(context, id);
  return kind === 'looks' ? storedLook(context, id) : null;
}

/** Takes a .cube file; one that is there already is not taken twice. */
export async function importLook(
  context: Context,
  file: { text: string; name: string; space: LookSpace }
): Promise<LookCard> {
  const look = await context.parser.parse<Look>('cube', file);
  const stored = Buffer.from(storeLook(look));
  const sha256 = createHash('sha256').update(stored).digest('hex');
  const { name, kind, size, space } = look;
  const { rows } = await context.db.query<{ id: string }>(
    `insert into looks (name, kind, size, space, sha256, stored) values ($1, $2, $3, $4, $5, $6)
     on conflict (sha256) do update set name = looks.name returning id`,
    [name, kind, size, space, sha256, stored]
  );
  return { id: rows[0].id, name, kind, size, space, shipped: false };
}

/** Renames an imported look. */
export async function renameLook({ db }: Context, id: string, name: string): Promise<boolean> {
  if (!UUID.test(id)) return false;
  const { rowCount } = await db.query('update looks set name = $2 where id = $1', [id, name]);
  return rowCount === 1;
}

/** Removes an imported look that no frame has; else says which do. */
export async function removeLook({ db }: Context, id: string): Promise<boolean> {
  if (!UUID.test(id)) return false;
  const { rows } = await db.query<{ name: string }>('select name from frames where look = $1 order by name', [
    id
  ]);
  if (rows.length > 0)
    throw new UserError(
      `${rows.length} ${rows.length === 1 ? 'frame has' : 'frames have'} this look (${rows[0].name}). Take it off there first.`
    );
  const { rowCount } = await db.query('delete from looks where id = $1', [id]);
  return rowCount === 1;
}

/** Skies that recipes can name: those that ship, and those of the studio's own pictures. */
import { createHash } from 'node:crypto';
import type { Context } from '../context.ts';
import { UUID } from '../database/uuid.ts';
import { UserError } from '../user-error.ts';
import { shippedSkies, shippedSkyFile } from './shipped-skies.ts';
import { skyBytes, skyFile } from './sky-file.ts';

export interface SkyCard {
  id: string;
  name: string;
  /** One of our own. */
  shipped: boolean;
}

/** Most skies of one's own, and letters of a name. */
const MOST = 200;
const LONGEST_NAME = 80;
export async function listSkies({ db }: Context): Promise<SkyCard[]> {
  const { rows } = await db.query<Omit<SkyCard, 'shipped'>>(
    'select id, name from skies order by name, created_at'
  );
  return [
    ...shippedSkies().map((sky) => ({ ...sky, shipped: true })),
    ...rows.map((row) => ({ ...row, shipped: false }))
  ];
}

/** The picture file of a sky of one's own; null where there is none. */
export async function ownSkyFile({ db }: Context, id: string): Promise<Buffer | null> {
  if (!UUID.test(id)) return null;
  const { rows } = await db.query<{ picture: Buffer }>('select picture from skies where id = $1', [id]);
  return rows[0]?.picture ?? null;
}

/** The bytes that stages are given; null where there is no such sky. */
export async function storedSky(context: Context, id: string): Promise<Uint8Array | null> {
  const picture = (await shippedSkyFile(id)) ?? (await ownSkyFile(context, id));
  return picture && skyBytes(picture);
}

/** Takes a picture in; one that is there already is not taken twice. */
export async function importSky(context: Context, bytes: Uint8Array, fileName: string): Promise<SkyCard> {
  const { picture, width, height } = await skyFile(bytes);
  const sha256 = createHash('sha256').update(picture).digest('hex');
  const name =
    fileName
      .replace(/\.[^.]*$/, '')
      .trim()
      .slice(0, LONGEST_NAME) || 'Sky';
  const { rows: held } = await context.db.query<{ count: number }>(
    'select count(*)::int as count from skies'
  );
  if (held[0].count >= MOST)
    throw new UserError(`${MOST} skies are kept at most: remove one that no frame shows first.`);
  const { rows } = await context.db.query<{ id: string; name: string }>(
    `insert into skies (name, width, height, sha256, picture) values ($1, $2, $3, $4, $5)
     on conflict (sha256) do update set name = skies.name returning id, name`,
    [name, width, height, sha256, picture]
  );
  return { ...rows[0], shipped: false };
}

/** Removes a sky that no frame shows; else says which do. */
export async function removeSky({ db }: Context, id: string): Promise<boolean> {
  if (!UUID.test(id)) return false;
  const { rows } = await db.query<{ name: string }>(
    `select name from frames
     where jsonb_path_exists(recipe, '$.areas.list[*].sky.picture ? (@ == $sky)', jsonb_build_object('sky', $1::text))
     order by name`,
    [id]
  );
  if (rows.length > 0)
    throw new UserError(
      `${rows.length} ${rows.length === 1 ? 'frame shows' : 'frames show'} this sky (${rows[0].name}). Take it off there first.`
    );
  const { rowCount } = await db.query('delete from skies where id = $1', [id]);
  return rowCount === 1;
}

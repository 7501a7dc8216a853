/** Looks and skies that come in with recipes: kept once, by the ids that they came with where those are free. */
import { createHash, randomUUID } from 'node:crypto';
import type { PoolClient } from 'pg';
import { UUID } from '../database/uuid.ts';
import type { NewNames } from './named-anew.ts';

export interface NamedPictures {
  looks: { id: string; name: string; kind: string; size: number; space: string; stored: Buffer }[];
  skies: { id: string; name: string; width: number; height: number; picture: Buffer }[];
}

/** An id that is free here: the one that it came with, where that can be. */
export async function freeUuid(
  client: PoolClient,
  table: 'looks' | 'skies' | 'house_settings',
  id: string
): Promise<string> {
  if (!UUID.test(id)) return randomUUID();
  const { rowCount } = await client.query(`select from ${table} where id = $1`, [id]);
  return rowCount ? randomUUID() : id;
}

/** Answers what each is known by here. */
export async function putPictures(
  client: PoolClient,
  from: NamedPictures
): Promise<Pick<NewNames, 'looks' | 'skies'>> {
  const looks = new Map<string, string>();
  for (const { id, name, kind, size, space, stored } of from.looks) {
    const sha256 = createHash('sha256').update(stored).digest('hex');
    const { rows } = await client.query<{ id: string }>(
      `insert into looks (id, name, kind, size, space, sha256, stored) values ($1, $2, $3, $4, $5, $6, $7)
       on conflict (sha256) do update set name = looks.name returning id`,
      [await freeUuid(client, 'looks', id), name, kind, size, space, sha256, stored]
    );
    looks.set(id, rows[0].id);
  }
  const skies = new Map<string, string>();
  for (const { id, name, width, height, picture } of from.skies) {
    const sha256 = createHash('sha256').update(picture).digest('hex');
    const { rows } = await client.query<{ id: string }>(
      `insert into skies (id, name, width, height, sha256, picture) values ($1, $2, $3, $4, $5, $6)
       on conflict (sha256) do update set name = skies.name returning id`,
      [await freeUuid(client, 'skies', id), name, width, height, sha256, picture]
    );
    skies.set(id, rows[0].id);
  }
  return { looks, skies };
}

/** The catalogue of lens profiles in the database. */
import type { Pool, PoolClient } from 'pg';
import { type LensProfile, focalRange } from '../../core/optics/profile.ts';
import type { Context } from '../context.ts';
import { UserError } from '../user-error.ts';
import { changeRecipes } from '../recipes/write-recipe.ts';
import type { CameraBody } from './profiles-from-calibration.ts';
import { slug } from './profiles-from-calibration.ts';
import { soundProfile } from './sound-profile.ts';

export type Origin = 'shipped' | 'imported' | 'measured';

export interface ProfileRow {
  id: string;
  maker: string;
  lens: string;
  mounts: string[];
  bodies: string[];
  sensor_half_diagonal: number;
  focal_min: number | null;
  focal_max: number | null;
  projection: string;
  corrects: string[];
  origin: Origin;
  /** Frames whose recipe names the profile. */
  used: number;
}

const COLUMNS = `p.id, p.maker, p.lens, p.mounts, p.bodies, p.sensor_half_diagonal, p.focal_min, p.focal_max,
  p.projection, p.corrects, p.origin`;

export type Queryable = Pick<Pool | PoolClient, 'query'>;

/** Writes profiles in one go: over a thousand take a second or two. */
export async function writeProfiles(
  db: Queryable,
  profiles: readonly LensProfile[],
  origin: Origin
): Promise<void> {
  for (let from = 0; from < profiles.length; from += 200) {
    const rows = profiles.slice(from, from + 200).map((profile) => {
      const range = focalRange(profile);
      const corrects = (['distortion', 'lateral', 'falloff'] as const).filter(
        (what) => profile[what].length > 0 || (what === 'falloff' && profile.gainMap)
      );
      return {
        id: profile.id,
        document: profile,
        maker: profile.maker,
        lens: profile.lens,
        mounts: profile.mounts ?? [],
        bodies: profile.bodies ?? [],
        sensor: profile.sensorHalfDiagonal,
        near: range?.[0] ?? null,
        far: range?.[1] ?? null,
        projection: profile.projection,
        corrects
      };
    });
    await db.query(
      `insert into lens_profiles (id, document, maker, lens, mounts, bodies, sensor_half_diagonal, focal_min, focal_max,
         projection, corrects, origin)
       select r.id, r.document, r.maker, r.lens,
         array(select jsonb_array_elements_text(r.mounts)), array(select jsonb_array_elements_text(r.bodies)),
         r.sensor, r.near, r.far, r.projection, array(select jsonb_array_elements_text(r.corrects)), $2
       from jsonb_to_recordset($1::jsonb) as r(id text, document jsonb, maker text, lens text, mounts jsonb, bodies jsonb,
         sensor float8, near float8, far float8, projection text, corrects jsonb)
       on conflict (id) do update set document = excluded.document, maker = excluded.maker, lens = excluded.lens,
         mounts = excluded.mounts, bodies = excluded.bodies, sensor_half_diagonal = excluded.sensor_half_diagonal,
         focal_min = excluded.focal_min, focal_max = excluded.focal_max, projection = excluded.projection,
         corrects = excluded.corrects, changed_at = now()
       where lens_profiles.origin = excluded.origin`,
      [JSON.stringify(rows), origin]
    );
  }
}

export async function writeBodies(db: Queryable, bodies: readonly CameraBody[]): Promise<void> {
  if (bodies.length === 0) return;
  await db.query(
    `insert into camera_bodies (maker, model, mounts, sensor_half_diagonal)
     select distinct on (r.maker, r.model) r.maker, r.model, array(select jsonb_array_elements_text(r.mounts)), r.sensor
     from jsonb_to_recordset($1::jsonb) as r(maker text, model text, mounts jsonb, sensor float8)
     on conflict (maker, model) do update set mounts = excluded.mounts,
       sensor_half_diagonal = excluded.sensor_half_diagonal`,
    [JSON.stringify(bodies.map((body) => ({ ...body, sensor: body.sensorHalfDiagonal })))]
  );
}

export interface CatalogueSearch {
  text?: string;
  origin?: Origin | '';
  corrects?: string;
  limit?: number;
}

export async function searchProfiles(
  context: Context,
  { text = '', origin = '', corrects = '', limit = 200 }: CatalogueSearch
): Promise<{ rows: ProfileRow[]; total: number; all: number }> {
  const words = text.toLowerCase().split(/\s+/).filter(Boolean).slice(0, 10);
  const conditions = words.map(
    (_, i) =>
      `lower(p.maker || ' ' || p.lens || ' ' || array_to_string(p.mounts || p.bodies, ' ')) like $${i + 4}`
  );
  const { rows } = await context.db.query<ProfileRow & { total: number }>(
    `select ${COLUMNS}, count(*) over ()::int as total,
       (select count(*)::int from frames f where f.profile = p.id) as used
     from lens_profiles p
     where ($1 = '' or p.origin = $1) and ($2 = '' or $2 = any(p.corrects))
       ${conditions.map((condition) => `and ${condition}`).join(' ')}
     order by array_position(array['measured', 'shipped', 'imported'], p.origin), lower(p.maker), p.lens, p.id
     limit $3`,
    [origin, corrects, limit, ...words.map((word) => `%${word.replace(/[\\%_]/g, '\\$&')}%`)]
  );
  const all = await context.db.query<{ count: number }>('select count(*)::int from lens_profiles');
  return { rows, total: rows[0]?.total ?? 0, all: all.rows[0].count };
}

export async function profileById(
  context: Context,
  id: string
): Promise<{ profile: LensProfile; origin: Origin } | null> {
  const { rows } = await context.db.query<{ document: LensProfile; origin: Origin }>(
    'select document, origin from lens_profiles where id = $1',
    [id]
  );
  return rows[0] ? { profile: rows[0].document, origin: rows[0].origin } : null;
}

/** What uses a profile: frames that name it, and choices remembered. */
export async function profileUsage(
  context: Context,
  id: string
): Promise<{
  frames: { id: string; name: string; job: string }[];
  choices: { body: string; lens: string }[];
}> {
  const frames = await context.db.query<{ id: string; name: string; job: string }>(
    `select f.id, f.name, j.name as job from frames f join jobs j on j.id = f.job_id
     where f.profile = $1 order by j.name, f.name limit 100`,
    [id]
  );
  const choices = await context.db.query<{ body: string; lens: string }>(
    'select body, lens from lens_choices where profile_id = $1 order by body, lens',
    [id]
  );
  return { frames: frames.rows, choices: choices.rows };
}

/** An id that no profile has yet. */
export async function freeId(context: { db: Queryable }, ...parts: string[]): Promise<string> {
  const base = slug(...parts);
  const { rows } = await context.db.query<{ id: string }>('select id from lens_profiles where id like $1', [
    `${base}%`
  ]);
  const taken = new Set(['auto', 'none', 'file', ...rows.map((row) => row.id)]);
  let id = base;
  for (let n = 2; taken.has(id); n++) id = `${base}-${n}`;
  return id;
}

export async function saveProfile(context: Context, id: string, value: unknown): Promise<LensProfile> {
  const known = await profileById(context, id);
  if (!known) throw new UserError('This profile no longer exists.');
  if (known.origin === 'shipped')
    throw new UserError(
      'A profile that comes with Line True cannot be changed: duplicate it and change the copy.'
    );
  const profile = { ...soundProfile(value), id };
  await writeProfiles(context.db, [profile], known.origin);
  return profile;
}

export async function duplicateProfile(context: Context, id: string): Promise<LensProfile> {
  const known = await profileById(context, id);
  if (!known) throw new UserError('This profile no longer exists.');
  const lens = `${known.profile.lens} (copy)`;
  const copy = { ...known.profile, lens, id: await freeId(context, known.profile.maker, lens) };
  await writeProfiles(context.db, [copy], 'measured');
  return copy;
}

/** Removes a profile. While frames use it, only with `force`: they then fall back to matching by themselves. */
export async function removeProfile(context: Context, id: string, force: boolean): Promise<void> {
  const known = await profileById(context, id);
  if (!known) return;
  if (known.origin === 'shipped')
    throw new UserError('A profile that comes with Line True cannot be removed.');
  const { frames } = await profileUsage(context, id);
  if (frames.length > 0 && !force) {
    throw new UserError(
      `${frames.length} ${frames.length === 1 ? 'frame uses' : 'frames use'} this profile. Remove it all the same to set them back to matching by themselves.`
    );
  }
  const using = await context.db.query<{ id: string }>('select id from frames where profile = $1', [id]);
  await changeRecipes(
    context,
    using.rows.map((frame) => frame.id),
    (recipe) => ({ ...recipe, lens: { ...recipe.lens, profile: 'auto' } })
  );
  await context.db.query('delete from lens_profiles where id = $1', [id]);
}

/** Import of profiles: JSON documents of our own, and open XML calibration data, any number of files at once. */
import type { Context } from '../context.ts';
import { inTransaction } from '../database/transaction.ts';
import { freeId, writeBodies, writeProfiles } from './catalogue.ts';
import type { ReadProfiles } from './read-profile-files.ts';

export interface ImportReport extends Pick<ReadProfiles, 'files' | 'failed' | 'skipped'> {
  profiles: number;
  bodies: number;
}

/** `text`: { files: [{ name, text }] } as JSON. Reads all that can be read; nothing of a file that fails is kept. */
export async function importProfiles(context: Context, text: string): Promise<ImportReport> {
  const read = await context.parser.parse<ReadProfiles>('profiles', { text });
  const { own, profiles, bodies, files, failed, skipped } = read;
  await inTransaction(context.db, async (client) => {
    await writeProfiles(client, profiles, 'imported');
    await writeBodies(client, bodies);
    // A profile of the user's own is never written over: it comes in beside what is there.
    for (const profile of own) {
      const { rowCount } = await client.query('select 1 from lens_profiles where id = $1', [profile.id]);
      const id = rowCount ? await freeId(context, profile.id) : profile.id;
      await writeProfiles(client, [{ ...profile, id }], 'imported');
    }
    // Frames of bodies whose sensor was not known now have its size.
    await client.query(
      `update frames f set facts = jsonb_set(f.facts, '{sensorHalfDiagonal}', to_jsonb(b.sensor_half_diagonal))
       from camera_bodies b
       where f.facts->'sensorHalfDiagonal' = 'null' and f.facts->'focalLength35' = 'null'
         and lower(f.facts->>'make') = lower(b.maker) and lower(f.facts->>'model') = lower(b.model)`
    );
  });
  return { files, failed, skipped, profiles: profiles.length + own.length, bodies: bodies.length };
}

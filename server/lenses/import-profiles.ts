/** Import of profiles: JSON documents of our own, and open XML calibration data, any number of files at once. */
import type { LensProfile } from '../../core/optics/profile.ts';
import type { Context } from '../context.ts';
import { UserError } from '../decode/user-error.ts';
import { freeId, soundProfile, writeBodies, writeProfiles } from './catalogue.ts';
import { type Skipped, convertCalibration } from './profiles-from-calibration.ts';
import { type CalibrationData, MOST_XML, readCalibrationXml } from './read-calibration-xml.ts';

export interface ImportedFile {
  name: string;
  text: string;
}

export interface ImportReport {
  /** Files that were read, and those that were not, with the reason. */
  files: number;
  failed: { file: string; why: string }[];
  profiles: number;
  bodies: number;
  /** Records and parts of records that were left out, with the reason. */
  skipped: Skipped[];
}

function readJson({ name, text }: ImportedFile): unknown[] {
  let value: unknown;
  try {
    value = JSON.parse(text);
  } catch (error) {
    throw new UserError(`${name} is not JSON: ${(error as Error).message}.`);
  }
  return Array.isArray(value) ? value : [value];
}

/** Reads all that can be read; nothing of a file that fails is kept. */
export async function importProfiles(
  context: Context,
  files: readonly ImportedFile[]
): Promise<ImportReport> {
  const report: ImportReport = { files: 0, failed: [], profiles: 0, bodies: 0, skipped: [] };
  const calibrations: CalibrationData[] = [];
  const own: LensProfile[] = [];
  for (const file of files) {
    const markup = file.text.replace(/^\uFEFF/, '');
    try {
      if (file.text.length > MOST_XML) throw new UserError(`${file.name}: files of at most 20 MB are read.`);
      if (/\.json$/i.test(file.name) || /^\s*[[{]/.test(file.text))
        own.push(...readJson(file).map(soundProfile));
      else if (/^\s*</.test(markup)) calibrations.push(readCalibrationXml(markup, file.name));
      else throw new UserError(`${file.name} is neither a profile (JSON) nor calibration data (XML).`);
      report.files++;
    } catch (error) {
      if (!(error instanceof UserError)) throw error;
      report.failed.push({ file: file.name, why: error.message });
    }
  }
  const { profiles, bodies, skipped } = convertCalibration(calibrations);
  const client = await context.db.connect();
  try {
    await client.query('begin');
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
    await client.query('commit');
  } catch (error) {
    await client.query('rollback');
    throw error;
  } finally {
    client.release();
  }
  report.profiles = profiles.length + own.length;
  report.bodies = bodies.length;
  report.skipped = skipped;
  return report;
}

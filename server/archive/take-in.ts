/** Takes a job archive in: all of it, or nothing. */
import { createWriteStream } from 'node:fs';
import { mkdir, rm } from 'node:fs/promises';
import { join } from 'node:path';
import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import equal from 'fast-deep-equal';
import type { PoolClient } from 'pg';
import type { LensProfile } from '../../core/optics/profile.ts';
import type { PartialRecipe } from '../../core/recipe/recipe.ts';
import type { Look } from '../../core/steps/colour/looks/look.ts';
import { storeLook } from '../../core/steps/colour/looks/stored-look.ts';
import type { Context } from '../context.ts';
import { inTransaction } from '../database/transaction.ts';
import { isPlain } from '../documents/plain-text.ts';
import { cleanName } from '../frames/add-frame.ts';
import { storedRecipe } from '../frames/read-recipe.ts';
import { freeId, writeBodies, writeProfiles } from '../lenses/catalogue.ts';
import { openChooser } from '../lenses/lens-choice.ts';
import { soundProfile } from '../lenses/sound-profile.ts';
import { removeUnused } from '../originals/remove-unused.ts';
import { type ReceivedFile, incomingFolder, keepOriginal, receiveFile } from '../originals/store-original.ts';
import { diskError, temporaryName } from '../originals/write-whole.ts';
import { readRecipeFile } from '../recipes/recipe-file.ts';
import { validHouseSettings } from '../recipes/house-file.ts';
import type { HouseRow } from '../recipes/house-settings.ts';
import { validRecipe } from '../recipes/validate.ts';
import { keptSkySize } from '../skies/sky-file.ts';
import { UserError } from '../user-error.ts';
import { PREPARE } from '../work/names.ts';
import { type ArchiveContents, type ArchivedFrame, CONTENTS, validContents } from './archive-format.ts';
import { type NewNames, namedAnew } from './named-anew.ts';
import { type NamedPictures, freeUuid, putPictures } from './put-pictures.ts';
import { type Archive, changedText, openArchive } from './read-archive.ts';

export interface TakenIn {
  /** Of the new job. */
  id: string;
  name: string;
  frames: number;
}

interface SoundFrame extends ArchivedFrame {
  own: PartialRecipe;
}

/** All of an archive but its originals, each part as sound as what comes in by any other way. */
interface SoundJob extends NamedPictures {
  contents: ArchiveContents;
  sets: HouseRow[];
  frames: SoundFrame[];
  lenses: { profile: LensProfile; origin: 'imported' | 'measured' }[];
}

function parsed(bytes: Buffer, name: string): unknown {
  try {
    const value: unknown = JSON.parse(bytes.toString('utf8'));
    if (isPlain(value)) return value;
  } catch {
    // Told below.
  }
  throw new UserError(`${name} of this archive is not JSON, or holds characters that are no text.`);
}

/** A faulty part is named: an archive has many. */
async function saying<T>(path: string, work: () => T | Promise<T>): Promise<T> {
  try {
    return await work();
  } catch (error) {
    if (error instanceof UserError)
      throw new UserError(`${path} of this archive cannot be used. ${error.message}`);
    throw error;
  }
}

async function readJob(context: Context, archive: Archive): Promise<SoundJob> {
  const contents = validContents(parsed(await archive.read(CONTENTS), CONTENTS));
  const sets = contents.house_settings.map(({ id, ...set }) => ({ id, ...validHouseSettings(set) }));
  const frames: SoundFrame[] = [];
  for (const frame of contents.frames) {
    if (archive.sumOf(frame.file) !== frame.sha256) throw new UserError(changedText(frame.file));
    const file = parsed(await archive.read(frame.recipe), frame.recipe);
    const own = await saying(frame.recipe, () => readRecipeFile(file).recipe);
    const revisions = await saying(frame.recipe, () =>
      frame.revisions.map((each) => ({ ...each, recipe: validRecipe(each.recipe) }))
    );
    frames.push({ ...frame, own, revisions });
  }
  const lenses: SoundJob['lenses'] = [];
  for (const { id, origin, file } of contents.lenses) {
    const document = parsed(await archive.read(file), file);
    const profile = { ...(await saying(file, () => soundProfile(document))), id };
    lenses.push({ profile, origin: origin === 'measured' ? 'measured' : 'imported' });
  }
  const looks: SoundJob['looks'] = [];
  for (const { id, name, space, file } of contents.looks) {
    const text = (await archive.read(file)).toString('utf8');
    // In a thread of its own, as any look that comes in.
    const look = await saying(file, () => context.parser.parse<Look>('cube', { text, name, space }));
    looks.push({ id, name, kind: look.kind, size: look.size, space, stored: Buffer.from(storeLook(look)) });
  }
  const skies: SoundJob['skies'] = [];
  for (const { id, name, file } of contents.skies) {
    const picture = await archive.read(file);
    skies.push({ id, name, picture, ...(await saying(file, () => keptSkySize(picture))) });
  }
  return { contents, sets, frames, lenses, looks, skies };
}

/** Profiles that are here already, word for word, are those; others come in beside what has their id. */
async function putLenses(client: PoolClient, { lenses, contents }: SoundJob): Promise<Map<string, string>> {
  const names = new Map<string, string>();
  for (const { profile, origin } of lenses) {
    const { rows } = await client.query<{ document: LensProfile }>(
      'select document from lens_profiles where id = $1',
      [profile.id]
    );
    if (rows[0] && equal(rows[0].document, profile)) continue;
    const id = rows[0] ? await freeId({ db: client }, profile.id) : profile.id;
    await writeProfiles(client, [{ ...profile, id }], origin);
    names.set(profile.id, id);
  }
  const known = await client.query<{ name: string }>(
    `select lower(maker || ' ' || model) as name from camera_bodies`
  );
  const here = new Set(known.rows.map(({ name }) => name));
  await writeBodies(
    client,
    contents.bodies.filter(({ maker, model }) => !here.has(`${maker} ${model}`.toLowerCase()))
  );
  return names;
}

async function putHouse(
  client: PoolClient,
  { contents, sets }: SoundJob,
  names: NewNames
): Promise<ArchiveContents['job']['house_rules']> {
  const ids = new Map<string, string>();
  for (const { id, name, folder, steps } of sets) {
    const own = namedAnew(steps as PartialRecipe, names);
    const { rows: same } = await client.query<{ id: string }>(
      'select id from house_settings where name = $1 and folder = $2 and steps = $3::jsonb limit 1',
      [name, folder, JSON.stringify(own)]
    );
    const known = same[0]?.id ?? (await freeUuid(client, 'house_settings', id));
    if (!same[0])
      await client.query('insert into house_settings (id, name, folder, steps) values ($1, $2, $3, $4)', [
        known,
        name,
        folder,
        JSON.stringify(own)
      ]);
    ids.set(id, known);
  }
  return contents.job.house_rules.flatMap((rule) => {
    const set = ids.get(rule.set);
    return set ? [{ ...rule, set }] : [];
  });
}

async function putFrame(
  client: PoolClient,
  jobId: string,
  frame: SoundFrame,
  settled: (recipe: PartialRecipe) => PartialRecipe
): Promise<string> {
  const recipe = settled(frame.own);
  const { sha256, name, room, choice, lines_said, outside, place, worked, revisions } = frame;
  const { rows } = await client.query<{ id: string }>(
    `insert into frames (job_id, sha256, name, room, choice, recipe, profile, look, lines_said, outside, version, place)
     values ($1, $2, $3, $4, $5, $6, $7, $8, $9, $10, $11, $12) returning id`,
    [
      jobId,
      sha256,
      cleanName(name),
      room,
      choice,
      storedRecipe(recipe),
      recipe.lens?.profile ?? 'auto',
      recipe.colour?.look ?? null,
      lines_said && JSON.stringify(lines_said),
      outside && JSON.stringify(outside),
      // What is done to new frames by themselves is done to those of version 0.
      worked ? 1 : 0,
      place
    ]
  );
  for (const each of revisions)
    await client.query(
      'insert into revisions (frame_id, letter, name, recipe, for_delivery) values ($1, $2, $3, $4, $5)',
      [rows[0].id, each.letter, each.name, storedRecipe(settled(each.recipe)), each.for_delivery]
    );
  return rows[0].id;
}

async function putJob(
  client: PoolClient,
  context: Context,
  job: SoundJob,
  files: ReadonlyMap<string, ReceivedFile>
): Promise<{ id: string; frames: string[] }> {
  const { name, client: who, site, due, true_up, ratios } = job.contents.job;
  // In one order everywhere: two that take the same files in would else wait for each other.
  for (const sha256 of [...files.keys()].sort())
    await client.query('select pg_advisory_xact_lock(hashtextextended($1, 1))', [sha256]);
  const pictures = await putPictures(client, job);
  const lenses = await putLenses(client, job);
  const names: NewNames = { ...pictures, lenses };
  const rules = await putHouse(client, job, names);
  const { rows } = await client.query<{ id: string }>(
    `insert into jobs (name, client, site, due, true_up, ratios, house_rules) values ($1, $2, $3, $4, $5, $6, $7) returning id`,
    [name.trim(), who, site, due, true_up, ratios, JSON.stringify(rules)]
  );
  const chooser = await openChooser({ db: client });
  const ids: string[] = [];
  for (const file of files.values()) {
    await keepOriginal(context.data, file);
    await client.query(
      'insert into originals (sha256, bytes) values ($1, $2) on conflict (sha256) do nothing',
      [file.sha256, file.bytes]
    );
  }
  for (const frame of job.frames) {
    const wanted = frame.auto && (lenses.get(frame.auto) ?? frame.auto);
    // Another profile would apply by itself here: the frame keeps the one that it had.
    const pinned = frame.facts !== null && chooser.rank(frame.facts).auto !== wanted;
    const settled = (recipe: PartialRecipe): PartialRecipe => {
      const own = namedAnew(recipe, names);
      const open = (own.lens?.profile ?? 'auto') === 'auto';
      return pinned && open ? { ...own, lens: { ...own.lens, profile: wanted ?? 'none' } } : own;
    };
    ids.push(await putFrame(client, rows[0].id, frame, settled));
  }
  return { id: rows[0].id, frames: ids };
}

/** Takes in an archive that lies at a path. */
export async function takeInArchive(context: Context, path: string): Promise<TakenIn> {
  const archive = await openArchive(path);
  const files = new Map<string, ReceivedFile>();
  try {
    const job = await readJob(context, archive);
    for (const { file, sha256, name } of job.frames) {
      if (files.has(sha256)) throw new UserError(`This archive holds the same original twice (${file}).`);
      const { stream, bytes } = await archive.stream(file);
      const received = await saying(file, () => receiveFile(context.data, name, stream, bytes)).finally(() =>
        stream.destroy()
      );
      files.set(received.sha256, received);
      if (received.sha256 !== sha256) throw new UserError(changedText(file));
    }
    const { id, frames } = await inTransaction(context.db, (client) => putJob(client, context, job, files));
    await context.enqueue(PREPARE, frames);
    await context.notices.tell({ job: id });
    return { id, name: job.contents.job.name, frames: frames.length };
  } catch (error) {
    for (const { temporary } of files.values()) await rm(temporary, { force: true });
    await removeUnused(context, [...files.keys()]).catch(() => {});
    throw diskError(error);
  } finally {
    archive.close();
  }
}

/** Receives an archive, and takes it in; `expected`: its bytes, where they are known. */
export async function receiveArchive(
  context: Context,
  body: AsyncIterable<Uint8Array>,
  expected: number | null
): Promise<TakenIn> {
  const folder = incomingFolder(context.data);
  await mkdir(folder, { recursive: true });
  const path = temporaryName(join(folder, 'archive'));
  try {
    const file = createWriteStream(path, { flags: 'wx' });
    await pipeline(Readable.from(body), file);
    if (expected !== null && file.bytesWritten !== expected)
      throw new UserError('The archive arrived cut short. Take it in again.');
    return await takeInArchive(context, path);
  } catch (error) {
    throw diskError(error);
  } finally {
    await rm(path, { force: true });
  }
}

/** Everything that a job stands on: what its archive holds, but for the originals' bytes. */
import { writeCube } from '../../core/steps/colour/looks/cube-file.ts';
import { readStoredLook } from '../../core/steps/colour/looks/stored-look.ts';
import { safeName } from '../../core/picture/output/file-name.ts';
import type { FrameFacts } from '../../core/optics/frame-facts.ts';
import type { LensProfile } from '../../core/optics/profile.ts';
import type { PartialRecipe } from '../../core/recipe/recipe.ts';
import type { Context } from '../context.ts';
import { UUID } from '../database/uuid.ts';
import { framesOfJob } from '../frames/frame-row.ts';
import { storedRecipe } from '../frames/read-recipe.ts';
import { jobById } from '../jobs/jobs.ts';
import { openChooser } from '../lenses/lens-choice.ts';
import type { Origin } from '../lenses/catalogue.ts';
import { listHouseSettings } from '../recipes/house-settings.ts';
import { revisionsOf } from '../recipes/revisions.ts';
import { shownSkies } from '../recipes/shown-skies.ts';
import { UserError } from '../user-error.ts';
import { ARCHIVE_FORMAT, type ArchiveContents, type ArchivedFrame } from './archive-format.ts';
import { frameRecipeFile, pathsBeside } from './frame-recipe-file.ts';

/** A file of the archive that is written from memory. */
export interface SmallFile {
  path: string;
  content: string | Uint8Array;
}

export interface GatheredJob {
  contents: ArchiveContents;
  small: SmallFile[];
}

/** Where originals and their recipes lie. */
const FOLDER = 'originals';

const json = (value: unknown): string => `${JSON.stringify(value, null, 2)}\n`;

const lensFactsOf = (facts: FrameFacts): ArchivedFrame['facts'] => ({
  make: facts.make,
  model: facts.model,
  lensMaker: facts.lensMaker,
  lens: facts.lens,
  focalLength: facts.focalLength,
  aperture: facts.aperture,
  sensorHalfDiagonal: facts.sensorHalfDiagonal
});

async function rowsByIds<T extends { id: string }>(
  { db }: Context,
  query: string,
  ids: Iterable<string>
): Promise<T[]> {
  const wanted = [...ids].filter((id) => UUID.test(id));
  return wanted.length === 0 ? [] : (await db.query<T>(query, [wanted])).rows;
}

/** Looks and skies of one's own that recipes name: what ships is there anywhere. */
async function lookAndSkyFiles(
  context: Context,
  recipes: readonly PartialRecipe[]
): Promise<Pick<ArchiveContents, 'looks' | 'skies'> & { small: SmallFile[] }> {
  const looks = await rowsByIds<{ id: string; name: string; space: 'srgb' | 'linear'; stored: Buffer }>(
    context,
    'select id, name, space, stored from looks where id = any($1) order by id',
    new Set(recipes.flatMap(({ colour }) => colour?.look ?? []))
  );
  const skies = await rowsByIds<{ id: string; name: string; picture: Buffer }>(
    context,
    'select id, name, picture from skies where id = any($1) order by id',
    new Set(recipes.flatMap(shownSkies))
  );
  return {
    looks: looks.map(({ id, name, space }) => ({ id, name, space, file: `looks/${id}.cube` })),
    skies: skies.map(({ id, name }) => ({ id, name, file: `skies/${id}.jpg` })),
    small: [
      ...looks.map(({ id, stored }) => ({
        path: `looks/${id}.cube`,
        content: writeCube(readStoredLook(stored))
      })),
      ...skies.map(({ id, picture }) => ({ path: `skies/${id}.jpg`, content: picture }))
    ]
  };
}

async function lensFiles(
  { db }: Context,
  ids: Iterable<string>
): Promise<{ lenses: ArchiveContents['lenses']; small: SmallFile[] }> {
  const { rows } = await db.query<{ id: string; origin: Origin; document: LensProfile }>(
    'select id, origin, document from lens_profiles where id = any($1) order by id',
    [[...new Set(ids)]]
  );
  const named = rows.map((row, i) => ({ ...row, file: `lenses/${i + 1}-${safeName(row.id)}.json` }));
  return {
    lenses: named.map(({ id, origin, file }) => ({ id, origin, file })),
    small: named.map(({ file, document }) => ({ path: file, content: json(document) }))
  };
}

export async function gatherJob(context: Context, jobId: string): Promise<GatheredJob> {
  const job = await jobById(context, jobId);
  if (!job) throw new UserError('This job no longer exists.');
  const rows = await framesOfJob(context, jobId);
  const chooser = await openChooser(context);
  const paths = pathsBeside(rows).map(({ file, recipe }) => ({
    file: `${FOLDER}/${file}`,
    recipe: `${FOLDER}/${recipe}`
  }));
  const { rows: sizes } = await context.db.query<{ sha256: string; bytes: number }>(
    'select sha256, bytes::float8 as bytes from originals where sha256 = any($1)',
    [rows.map(({ sha256 }) => sha256)]
  );
  const bytesOf = new Map(sizes.map(({ sha256, bytes }) => [sha256, bytes]));
  const frames: ArchivedFrame[] = [];
  const small: SmallFile[] = [];
  for (const [i, row] of rows.entries()) {
    const { facts, recipe, sha256, name, room, choice, lines_said, outside, place, version, measured } = row;
    const revisions = await revisionsOf(context, row.id);
    frames.push({
      ...paths[i],
      sha256,
      bytes: bytesOf.get(sha256)!,
      name,
      room,
      choice,
      place,
      facts: facts && lensFactsOf(facts),
      auto: facts && chooser.rank(facts).auto,
      worked: version > 0 || measured,
      lines_said,
      outside,
      revisions: revisions.map((each) => ({
        letter: each.letter,
        name: each.name,
        recipe: storedRecipe(each.recipe),
        for_delivery: each.for_delivery
      }))
    });
    const file = await frameRecipeFile(context, storedRecipe(recipe));
    small.push({ path: paths[i].recipe, content: json(file) });
  }
  const ruled = new Set(job.house_rules.map(({ set }) => set));
  const sets = (await listHouseSettings(context)).filter(({ id }) => ruled.has(id));
  const recipes = [
    ...rows.map(({ recipe }) => recipe),
    ...frames.flatMap(({ revisions }) => revisions.map(({ recipe }) => recipe)),
    ...sets.map(({ steps }) => steps as PartialRecipe)
  ];
  const pictures = await lookAndSkyFiles(context, recipes);
  const glass = await lensFiles(context, [
    ...recipes.flatMap(({ lens }) => lens?.profile ?? []),
    ...frames.flatMap(({ auto }) => auto ?? [])
  ]);
  const { rows: bodies } = await context.db.query<ArchiveContents['bodies'][number]>(
    `select maker, model, mounts, sensor_half_diagonal as "sensorHalfDiagonal" from camera_bodies b
     where exists (select from frames f where f.job_id = $1
       and lower(f.facts->>'make') = lower(b.maker) and lower(f.facts->>'model') = lower(b.model))`,
    [jobId]
  );
  const contents: ArchiveContents = {
    format: ARCHIVE_FORMAT,
    version: 1,
    job: {
      name: job.name,
      client: job.client,
      site: job.site,
      due: job.due,
      true_up: job.true_up,
      ratios: job.ratios,
      house_rules: job.house_rules.filter(({ set }) => sets.some(({ id }) => id === set))
    },
    house_settings: sets.map(({ id, name, folder, steps }) => ({ id, name, folder, steps })),
    looks: pictures.looks,
    skies: pictures.skies,
    lenses: glass.lenses,
    bodies,
    frames
  };
  return { contents, small: [...small, ...pictures.small, ...glass.small] };
}

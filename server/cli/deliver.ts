/** A folder of photographs with recipes beside them, made into deliverables. */
import { mkdir, readdir, stat } from 'node:fs/promises';
import { basename, join, parse, resolve } from 'node:path';
import { parseArgs } from 'node:util';
import exifr from 'exifr';
import { shippedProfiles } from '../../core/optics/shipped-profiles.ts';
import type { LensProfile } from '../../core/optics/profile.ts';
import type { Deliverable } from '../../core/picture/output/deliverable-schema.ts';
import { nameKey } from '../../core/picture/output/file-name.ts';
import { completeRecipe } from '../../core/recipe/recipe.ts';
import type { PartialRecipe } from '../../core/recipe/recipe.ts';
import { UserError } from '../user-error.ts';
import { pathInFolder, placeFile } from '../deliveries/delivery-folder.ts';
import { soundDeliverable } from '../deliveries/deliverables.ts';
import { type ManifestEntry, manifestCsv, manifestJson } from '../deliveries/manifest.ts';
import { ratioInHand } from '../../core/steps/crop/step.ts';
import type { NamedFrame } from '../../core/picture/output/file-tokens.ts';
import { type NamedItem, nameItems } from '../deliveries/name-items.ts';
import { AT_ONCE, type Begin, keepInHand } from '../deliveries/in-hand.ts';
import { pictureRequest } from '../deliveries/picture-request.ts';
import { soundProfile } from '../lenses/sound-profile.ts';
import type { Looks } from '../recipes/recipe-file.ts';
import type { FindStored } from '../render/frame-resources.ts';
import { type OpenedFrame, openFrame, renderPicture } from '../render/export-frame.ts';
import { type Pool, createPool } from '../render/pool.ts';
import type { ByItself } from '../render/by-itself.ts';
import { BY_ITSELF_OPTIONS, readByItself } from './by-itself-options.ts';
import { chooseFrom } from './choose-profile.ts';
import { UsageError, readJson, writeOutput } from './files.ts';
import { looksOf, withLooks } from './looks.ts';

/** Endings of photographs; anything else in the folder is left alone. */
const PHOTOGRAPHS = /\.(dng|nef|cr2|cr3|arw|raf|rw2|orf|pef|jpe?g|png|tiff?)$/i;

/** What is read of a file before it is opened, for its name. */
const DATE = { pick: ['DateTimeOriginal'], reviveValues: false };

interface Photograph extends NamedFrame {
  path: string;
  recipe: PartialRecipe;
  findStored: FindStored;
}

/** Says what became of one picture. */
type Tell = (picture: {
  file: string;
  frame: string;
  done: number;
  of: number;
  error?: string;
  entry?: ManifestEntry;
}) => void;

async function photographsOf(folder: string, looks: Looks): Promise<Photograph[]> {
  const names = await readdir(folder).catch(() => {
    throw new UserError(`There is no folder ${folder}.`);
  });
  const photographs = names.filter((name) => PHOTOGRAPHS.test(name)).sort();
  if (photographs.length === 0) throw new UserError(`There are no photographs in ${folder}.`);
  return Promise.all(
    photographs.map(async (name) => {
      const beside = join(folder, `${parse(name).name}.json`);
      const known = await stat(beside).catch(() => null);
      const { recipe, findStored } = withLooks(known ? await readJson(beside) : {}, looks);
      const { crop } = completeRecipe(recipe);
      const ratio = ratioInHand(crop);
      const path = join(folder, name);
      // A file that cannot be read at all is told when its pictures are made.
      const tags = (await exifr.parse(path, DATE).catch(() => null)) as
        { DateTimeOriginal?: string } | null | undefined;
      return {
        id: name,
        name,
        room: '',
        taken: tags?.DateTimeOriginal ?? null,
        ratio,
        path,
        recipe,
        findStored
      };
    })
  );
}

type Result = { error: string } | { entry: ManifestEntry };

/** Where the pictures go, and whom to tell of each. */
interface Run {
  out: string;
  /** Names that are taken, though their files may not be there yet. */
  reserved: Set<string>;
  known: readonly LensProfile[];
  byItself: ByItself | undefined;
  pool: Pool;
  tell: (item: NamedItem<Photograph>, result: Result) => void;
}

async function makePicture(
  item: NamedItem<Photograph>,
  file: string,
  opening: Promise<OpenedFrame>,
  { out, pool }: Run
): Promise<Result> {
  const { deliverable, rights, frame } = item;
  try {
    const made = await renderPicture(await opening, pictureRequest(deliverable, rights), pool);
    await writeOutput(pathInFolder(out, file), made.bytes);
    const { bytes, size, report } = made;
    const entry = {
      file,
      frame: frame.name,
      deliverable: deliverable.name,
      bytes: bytes.length,
      ...size,
      sha256: report.picture.sha256,
      report
    };
    return { entry };
  } catch (error) {
    const { message } = error as Error;
    return { error: error instanceof UserError ? message : `A fault in Line True: ${message}` };
  }
}

/** Makes the pictures of one photograph; each that fails is told and leaves the others alone. */
async function deliverFrame(
  { path, name, recipe, findStored }: Photograph,
  items: readonly NamedItem<Photograph>[],
  run: Run
): Promise<{ rest: Promise<void> }> {
  const { out, reserved, known, byItself, pool, tell } = run;
  const opening = openFrame(
    { path, name, recipe, byItself, findStored, choose: (facts) => chooseFrom(facts, known) },
    pool
  );
  // Its pictures tell why it failed; there may be none.
  opening.catch(() => {});
  const waiting = [...items];
  const begin: Begin = async () => {
    for (let item = waiting.shift(); item; item = waiting.shift()) {
      const file = await placeFile(out, item.file, item.deliverable.existing, reserved);
      if (file === null) {
        tell(item, { error: 'It exists already and was skipped.' });
        continue;
      }
      reserved.add(nameKey(file));
      const current = item;
      return {
        made: makePicture(current, file, opening, run).then((result) => tell(current, result))
      };
    }
    return null;
  };
  const { rest } = await keepInHand(begin, AT_ONCE);
  return { rest: rest.finally(() => opening.then((opened) => opened.close()).catch(() => {})) };
}

const words: Tell = ({ file, done, of, error, entry }) => {
  const size = entry ? `${entry.width} × ${entry.height}, ${Math.round(entry.bytes / 1000)} kB` : error;
  (error ? process.stderr : process.stdout).write(
    `${String(done).padStart(String(of).length)}/${of} ${file}: ${size}\n`
  );
};
const lines: Tell = ({ file, frame, done, of, error, entry }) => {
  const { report, ...told } = entry ?? { report: null };
  process.stdout.write(
    `${JSON.stringify({ file, frame, done, of, error, ...told, readings: report?.readings })}\n`
  );
};

export async function deliver(args: string[]): Promise<void> {
  const { values, positionals } = parseArgs({
    args,
    allowPositionals: true,
    options: {
      deliverables: { type: 'string' },
      out: { type: 'string' },
      profile: { type: 'string', multiple: true },
      look: { type: 'string', multiple: true },
      ...BY_ITSELF_OPTIONS,
      json: { type: 'boolean' }
    }
  });
  if (positionals.length !== 1) throw new UsageError('deliver takes one folder of photographs.');
  if (!values.deliverables) throw new UsageError('deliver needs --deliverables FILE.');
  if (!values.out) throw new UsageError('deliver needs --out DIR.');
  const listed = await readJson(values.deliverables);
  const wanted: Deliverable[] = [];
  for (const one of Array.isArray(listed) ? listed : [listed]) wanted.push(await soundDeliverable(one));
  if (wanted.length === 0) throw new UserError(`${values.deliverables} holds no deliverable.`);
  const known: LensProfile[] = [
    ...(await Promise.all((values.profile ?? []).map(async (path) => soundProfile(await readJson(path))))),
    ...shippedProfiles
  ];
  const byItself = await readByItself(values);
  const folder = resolve(positionals[0]);
  const photographs = await photographsOf(folder, await looksOf(values.look));
  const job = { name: basename(folder), client: '', site: '' };
  const items = nameItems(
    job,
    photographs.flatMap((frame) => wanted.map((deliverable) => ({ frame, deliverable })))
  );
  const out = resolve(values.out);
  await mkdir(out, { recursive: true });
  const pool = createPool();
  pool.begin();
  const made = new Map<NamedItem<Photograph>, ManifestEntry>();
  let done = 0;
  let failed = 0;
  const say = values.json ? lines : words;
  try {
    const run: Run = {
      out,
      reserved: new Set(),
      known,
      byItself,
      pool,
      tell(item, result) {
        done++;
        if ('entry' in result) made.set(item, result.entry);
        else failed++;
        const file = 'entry' in result ? result.entry.file : item.file;
        say({ file, frame: item.frame.name, done, of: items.length, ...result });
      }
    };
    let rest: Promise<void> = Promise.resolve();
    for (const photograph of photographs) {
      const own = items.filter(({ frame }) => frame === photograph);
      const before = rest;
      // The next photograph is opened while the last pictures of this one are made.
      ({ rest } = await deliverFrame(photograph, own, run));
      await before;
    }
    await rest;
  } finally {
    await pool.destroy();
  }
  // In the order of the photographs, whichever was ready first.
  const entries = items.flatMap((item) => made.get(item) ?? []);
  await writeOutput(join(out, 'manifest.csv'), manifestCsv(entries));
  await writeOutput(join(out, 'manifest.json'), manifestJson(entries));
  if (failed > 0) throw new UserError(`${failed} of ${items.length} pictures were not made; see above.`);
}

/** The command line: renders and inspects files without database or browser. */
import { basename, extname } from 'node:path';
import { parseArgs } from 'node:util';
import { SPACES } from '../../core/colour/rgb-spaces.ts';
import { shippedProfiles } from '../../core/optics/shipped-profiles.ts';
import { setupFrame } from '../../core/steps/lens/frame-optics.ts';
import { TRUE_UP_MODES } from '../../core/steps/lines/solve-rotation.ts';
import { completeRecipe } from '../../core/recipe/recipe.ts';
import { decodeFile } from '../decode/decode-file.ts';
import { UserError } from '../user-error.ts';
import { exportFrame } from '../render/export-frame.ts';
import type { OutputFormat } from '../../core/picture/output/deliverable-schema.ts';
import { AUTOMATIC } from '../render/by-itself.ts';
import { createPool } from '../render/pool.ts';
import { soundProfile } from '../lenses/sound-profile.ts';
import { chooseFrom } from './choose-profile.ts';
import { UsageError, WriteError, readInput, readJson, writeOutput } from './files.ts';
import { looksOf, withLooks } from './looks.ts';

export const HELP = `line-true: geometrically true pictures from the command line

  line-true render PHOTO --out PICTURE [options]
      Renders a photograph. The ending of PICTURE says what: .jpg, .jpeg, .png, .tif or .tiff.
      --recipe FILE     recipe (JSON); without one the picture is rendered neutrally
      --report FILE     also write the report with the readings (JSON)
      --profile FILE    a lens profile (JSON) to be known beside those that come along; may be repeated
      --look FILE       a look (.cube); one alone is laid over the picture, of several the recipe names one by its
                        file's name without ending; may be repeated
      --space SPACE     colours of the picture: srgb (default), display-p3, oprgb or rec2020
      --quality N       JPEG quality, 1 to 100 (default 92)
      --long-edge N     longest edge in pixels (default: full size; never enlarges)
      --ppi N           pixels per inch written to the file (default 300)
      --depth 8|16      bits per channel of PNG and TIFF (default 16 for TIFF, 8 for PNG)
      --straighten      straighten the lens by the edges of the picture, where they tell it
      --true-up MODE    find plumb and level lines and true up from them: verticals, level, both or front
      --auto WHAT       set by itself: tone, colour, or tone,colour
                        What was found is printed, and stands in the report.
      --keep-position   write the place where the picture was taken, if known
  line-true deliver FOLDER --deliverables FILE --out DIR [options]
      Makes every deliverable of every photograph in a folder. The recipe of photo.dng is photo.json beside it.
      --deliverables FILE  deliverables (JSON), as the app exports them
      --profile FILE       a lens profile (JSON) to be known beside those that come along; may be repeated
      --look FILE          a look (.cube), as above; may be repeated
      --json               one line of JSON for each picture in place of words
      The manifest (CSV and JSON) goes to DIR as well. Pictures that fail are named; the others are made.
  line-true inspect PHOTO
      Prints what the file is, as JSON.
  line-true --help

A recipe that the app wrote for the command line carries its look. A recipe with marks and without angles is trued up from its marks.

Exit codes: 0 done; 1 the photograph, recipe or profile cannot be used; 2 the call is wrong; 3 the result
cannot be written; 70 a fault in Line True itself.
`;

const FORMATS: Record<string, OutputFormat> = {
  '.jpg': 'jpeg',
  '.jpeg': 'jpeg',
  '.png': 'png',
  '.tif': 'tiff',
  '.tiff': 'tiff'
};

function wholeNumber(text: string | undefined, name: string, low: number, high: number): number | null {
  if (text === undefined) return null;
  const value = Number(text);
  if (!Number.isInteger(value) || value < low || value > high) {
    throw new UsageError(`--${name} takes a whole number from ${low} to ${high}, not "${text}".`);
  }
  return value;
}

async function render(args: string[]): Promise<void> {
  const { values, positionals } = parseArgs({
    args,
    allowPositionals: true,
    options: {
      out: { type: 'string' },
      recipe: { type: 'string' },
      report: { type: 'string' },
      profile: { type: 'string', multiple: true },
      look: { type: 'string', multiple: true },
      space: { type: 'string' },
      quality: { type: 'string' },
      'long-edge': { type: 'string' },
      ppi: { type: 'string' },
      depth: { type: 'string' },
      straighten: { type: 'boolean' },
      'true-up': { type: 'string' },
      auto: { type: 'string' },
      'keep-position': { type: 'boolean' }
    }
  });
  if (positionals.length !== 1) throw new UsageError('render takes one photograph.');
  if (!values.out) throw new UsageError('render needs --out PICTURE.');
  const format = FORMATS[extname(values.out).toLowerCase()];
  if (!format) throw new UsageError('--out must end in .jpg, .jpeg, .png, .tif or .tiff.');
  const depth = values.depth ?? (format === 'tiff' ? '16' : '8');
  if (depth !== '8' && depth !== '16') throw new UsageError('--depth is 8 or 16.');
  const space = SPACES.find((each) => each === (values.space ?? 'srgb'));
  if (!space) throw new UsageError(`--space is one of ${SPACES.join(', ')}, not "${values.space}".`);
  const encoding = {
    format,
    space,
    quality: wholeNumber(values.quality, 'quality', 1, 100) ?? 92,
    ppi: wholeNumber(values.ppi, 'ppi', 1, 10000) ?? 300,
    keepPosition: values['keep-position'] ?? false
  };
  const trueUp = TRUE_UP_MODES.find((mode) => mode === values['true-up']) ?? null;
  if (values['true-up'] !== undefined && !trueUp)
    throw new UsageError(`--true-up is one of ${TRUE_UP_MODES.join(', ')}, not "${values['true-up']}".`);
  const auto = (values.auto?.split(',') ?? []).map((name) => {
    const known = AUTOMATIC.find((each) => each === name.trim());
    if (!known) throw new UsageError(`--auto takes ${AUTOMATIC.join(' and ')}, not "${name}".`);
    return known;
  });
  const byItself = { straighten: values.straighten ?? false, trueUp, auto };
  const longEdge = wholeNumber(values['long-edge'], 'long-edge', 16, 100000);
  const own = await Promise.all(
    (values.profile ?? []).map(async (path) => soundProfile(await readJson(path)))
  );
  const looks = await looksOf(values.look);
  const { recipe, findStored } = withLooks(values.recipe ? await readJson(values.recipe) : {}, looks);
  const [path] = positionals;
  await readInput(path);
  const pool = createPool();
  pool.begin();
  try {
    const {
      bytes,
      report,
      byItself: said
    } = await exportFrame(
      {
        path,
        name: basename(path),
        recipe,
        byItself: byItself.straighten || trueUp || auto.length > 0 ? byItself : undefined,
        findStored,
        choose: (facts) => chooseFrom(facts, [...own, ...shippedProfiles]),
        encoding,
        depth: depth === '16' ? 16 : 8,
        longEdge,
        reported: values.report !== undefined
      },
      pool
    );
    await writeOutput(values.out, bytes);
    for (const line of said) process.stdout.write(`${line}\n`);
    if (values.report && report) await writeOutput(values.report, JSON.stringify(report, null, 2) + '\n');
  } finally {
    await pool.destroy();
  }
}

async function inspect(args: string[]): Promise<void> {
  const { positionals } = parseArgs({ args, allowPositionals: true, options: {} });
  if (positionals.length !== 1) throw new UsageError('inspect takes one photograph.');
  const decoded = await decodeFile(await readInput(positionals[0]), basename(positionals[0]));
  const { facts } = decoded;
  const choice = chooseFrom(facts, shippedProfiles);
  const { optics, profile } = setupFrame(facts, completeRecipe().lens, choice);
  const sensor =
    decoded.kind === 'mosaic'
      ? {
          kind: 'bayer',
          pattern: decoded.mosaic.pattern.map((c) => 'RGB'[c]).join(''),
          black: decoded.mosaic.black,
          white: decoded.mosaic.white
        }
      : { kind: 'rgb' };
  const shown = {
    ...facts,
    sensor,
    focalInHalfDiagonals: optics.focal,
    focalFrom: optics.focalFrom,
    profile: profile?.id ?? null
  };
  process.stdout.write(JSON.stringify(shown, null, 2) + '\n');
}

/** Runs a call and returns the exit code. */
export async function main(args: string[]): Promise<number> {
  const [command, ...rest] = args;
  try {
    if (command === '--help' || command === '-h' || command === 'help') process.stdout.write(HELP);
    else if (command === 'render') await render(rest);
    // What only deliveries need (reports as PDF) takes a while to load.
    else if (command === 'deliver') await (await import('./deliver.ts')).deliver(rest);
    else if (command === 'inspect') await inspect(rest);
    else
      throw new UsageError(
        command ? `There is no command "${command}".` : 'Say what to do: render, deliver or inspect.'
      );
    return 0;
  } catch (error) {
    const message = error instanceof Error ? error.message : String(error);
    process.stderr.write(`line-true: ${message}\n`);
    const code = (error as { code?: string }).code ?? '';
    if (error instanceof UsageError || code.startsWith('ERR_PARSE_ARGS')) {
      process.stderr.write('See line-true --help.\n');
      return 2;
    }
    if (error instanceof UserError) return 1;
    if (error instanceof WriteError) return 3;
    return 70;
  }
}

process.exitCode = await main(process.argv.slice(2));

/** One photograph to one picture, from the command line. */
import { basename, extname } from 'node:path';
import { parseArgs } from 'node:util';
import { SPACES } from '../../core/colour/rgb-spaces.ts';
import { shippedProfiles } from '../../core/optics/shipped-profiles.ts';
import type { OutputFormat } from '../../core/picture/output/deliverable-schema.ts';
import type { Reader } from '../decode/reader.ts';
import { soundProfile } from '../lenses/sound-profile.ts';
import { exportFrame } from '../render/export-frame.ts';
import { createPool } from '../render/pool.ts';
import { BY_ITSELF_OPTIONS, readByItself } from './by-itself-options.ts';
import { chooseFrom } from './choose-profile.ts';
import { UsageError, readInput, readJson, writeOutput } from './files.ts';
import { looksOf, withLooks } from './looks.ts';

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

/** `reader` was started while this was loaded. */
export async function render(args: string[], reader: Reader): Promise<void> {
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
      ...BY_ITSELF_OPTIONS,
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
  const byItself = await readByItself(values);
  const longEdge = wholeNumber(values['long-edge'], 'long-edge', 16, 100000);
  const own = await Promise.all(
    (values.profile ?? []).map(async (path) => soundProfile(await readJson(path)))
  );
  const looks = await looksOf(values.look);
  const { recipe, findStored } = withLooks(values.recipe ? await readJson(values.recipe) : {}, looks);
  const [path] = positionals;
  await readInput(path);
  const pool = createPool(undefined, reader);
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
        byItself,
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

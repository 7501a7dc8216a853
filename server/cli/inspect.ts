/** What a photograph is, as JSON, and how true it is. */
import { basename } from 'node:path';
import { parseArgs } from 'node:util';
import { shippedProfiles } from '../../core/optics/shipped-profiles.ts';
import type { FrameFacts } from '../../core/optics/frame-facts.ts';
import { completeRecipe } from '../../core/recipe/recipe.ts';
import { renderInputs } from '../../core/render/render-inputs.ts';
import { type LensChoice, setupFrame } from '../../core/steps/lens/frame-optics.ts';
import { decodeFile } from '../decode/decode-file.ts';
import { openFrame } from '../render/export-frame.ts';
import { createPool } from '../render/pool.ts';
import { takeReadings } from '../render/report.ts';
import { chooseFrom } from './choose-profile.ts';
import { UsageError, readInput, readJson } from './files.ts';
import { withLooks } from './looks.ts';

/** What of a picture is measured, by a recipe (as shot without one). */
async function readingsOf(path: string, recipeFile: unknown): Promise<object> {
  const { recipe, findStored } = withLooks(recipeFile, new Map());
  const pool = createPool();
  try {
    const choose = (facts: FrameFacts): LensChoice => chooseFrom(facts, shippedProfiles);
    const opened = await openFrame({ path, name: basename(path), recipe, findStored, choose }, pool);
    try {
      const { facts, choice, greys } = opened;
      const inputs = renderInputs(opened.recipe, facts, choice);
      return takeReadings({ ...inputs, facts, greys, ...(await opened.evidence()) });
    } finally {
      await opened.close();
    }
  } finally {
    await pool.destroy();
  }
}

export async function inspect(args: string[]): Promise<void> {
  const { values, positionals } = parseArgs({
    args,
    allowPositionals: true,
    options: { readings: { type: 'boolean' }, recipe: { type: 'string' } }
  });
  if (positionals.length !== 1) throw new UsageError('inspect takes one photograph.');
  if (values.recipe !== undefined && !values.readings)
    throw new UsageError('--recipe says what readings are taken of: give --readings as well.');
  const recipe = values.recipe ? await readJson(values.recipe) : {};
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
    profile: profile?.id ?? null,
    ...(values.readings ? await readingsOf(positionals[0], recipe) : {})
  };
  process.stdout.write(JSON.stringify(shown, null, 2) + '\n');
}

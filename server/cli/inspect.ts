/** What a photograph is, as JSON. */
import { basename } from 'node:path';
import { parseArgs } from 'node:util';
import { shippedProfiles } from '../../core/optics/shipped-profiles.ts';
import { completeRecipe } from '../../core/recipe/recipe.ts';
import { setupFrame } from '../../core/steps/lens/frame-optics.ts';
import { decodeFile } from '../decode/decode-file.ts';
import { chooseFrom } from './choose-profile.ts';
import { UsageError, readInput } from './files.ts';

export async function inspect(args: string[]): Promise<void> {
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

/** Recipes as files beside their originals: taken for a frame, with the looks and skies that they carry, and written for a job. */
import { PassThrough, type Readable, pipeline } from 'node:stream';
import { ZipFile } from 'yazl';
import { readStoredLook } from '../../core/steps/colour/looks/stored-look.ts';
import type { Context } from '../context.ts';
import { inTransaction } from '../database/transaction.ts';
import { readRecipeFile } from '../recipes/recipe-file.ts';
import { type Changed, changeRecipes } from '../recipes/write-recipe.ts';
import { UserError } from '../user-error.ts';
import { gatherJob } from './gather-job.ts';
import { namedAnew } from './named-anew.ts';
import { putPictures, soundSky } from './put-pictures.ts';

const STAMP = new Date(Date.UTC(2000, 0, 1, 12));

/** Lets a frame have the recipe of a file, as one step of its history; answers what changed. */
export async function takeRecipe(context: Context, frameId: string, file: unknown): Promise<Changed[]> {
  const { recipe, looks, skies } = readRecipeFile(file);
  const pictures = {
    looks: [...looks].map(([id, bytes]) => {
      const { name, kind, size, space } = readStoredLook(bytes);
      return { id, name, kind, size, space, stored: Buffer.from(bytes) };
    }),
    skies: await Promise.all(
      [...skies].map(async ([id, bytes]) => {
        const picture = Buffer.from(bytes);
        return { id, name: 'Sky of a recipe', picture, ...(await soundSky(picture)) };
      })
    )
  };
  const names = await inTransaction(context.db, (client) => putPictures(client, pictures));
  const own = namedAnew(recipe, { ...names, lenses: new Map() });
  const { frames, changed } = await changeRecipes(context, [frameId], () => own);
  if (frames === 0) throw new UserError('This frame no longer exists.');
  return changed;
}

/** The recipes of a job's frames, each as the file that lies beside its original. */
export async function recipesZip(context: Context, jobId: string): Promise<Readable> {
  const { contents, small } = await gatherJob(context, jobId);
  if (contents.frames.length === 0) throw new UserError('This job has no frames yet.');
  const content = new Map(small.map((each) => [each.path, each.content]));
  const zip = new ZipFile();
  for (const { recipe } of contents.frames)
    zip.addBuffer(Buffer.from(content.get(recipe)!), recipe.replace(/^originals\//, ''), {
      mtime: STAMP,
      mode: 0o100644
    });
  zip.end();
  const out = new PassThrough();
  pipeline(zip.outputStream as Readable, out, () => {});
  return out;
}

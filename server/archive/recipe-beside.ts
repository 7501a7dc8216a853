/** Recipes as files beside their originals: taken for a frame, with the looks and skies that they carry, and written for a job. */
import type { Readable } from 'node:stream';
import { readStoredLook } from '../../core/steps/colour/looks/stored-look.ts';
import type { Context } from '../context.ts';
import { inTransaction } from '../database/transaction.ts';
import { zipStream } from '../documents/zip-stream.ts';
import { framesOfJob } from '../frames/frame-row.ts';
import { storedRecipe } from '../frames/read-recipe.ts';
import { jobById } from '../jobs/jobs.ts';
import { readRecipeFile } from '../recipes/recipe-file.ts';
import { type Changed, changeRecipes } from '../recipes/write-recipe.ts';
import { keptSkySize } from '../skies/sky-file.ts';
import { UserError } from '../user-error.ts';
import { frameRecipeFile, pathsBeside } from './frame-recipe-file.ts';
import { namedAnew } from './named-anew.ts';
import { putPictures } from './put-pictures.ts';

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
        return { id, name: 'Sky of a recipe', picture, ...(await keptSkySize(picture)) };
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
  if (!(await jobById(context, jobId))) throw new UserError('This job no longer exists.');
  const frames = await framesOfJob(context, jobId);
  if (frames.length === 0) throw new UserError('This job has no frames yet.');
  const paths = pathsBeside(frames);
  const zip = zipStream();
  for (const [i, { recipe }] of frames.entries()) {
    const file = await frameRecipeFile(context, storedRecipe(recipe));
    zip.addText(paths[i].recipe, `${JSON.stringify(file, null, 2)}\n`);
  }
  return zip.end();
}

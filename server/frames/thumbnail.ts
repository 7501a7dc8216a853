/** Small pictures for the job view: the proxy with the frame's recipe, kept per version. */
import { readFile, readdir, rm } from 'node:fs/promises';
import { basename, dirname, join } from 'node:path';
import sharp from 'sharp';
import { asShot, completeRecipe } from '../../core/recipe/recipe.ts';
import type { PartialRecipe } from '../../core/recipe/recipe.ts';
import { limitedSize } from '../../core/render/plan.ts';
import { renderInputs } from '../../core/render/render-inputs.ts';
import type { Context } from '../context.ts';
import { UserError } from '../decode/user-error.ts';
import { writeWhole } from '../originals/write-whole.ts';
import { choiceFor } from '../lenses/lens-choice.ts';
import { giveBack } from '../../core/picture/kernels/heap.ts';
import { givePlanesBack } from '../../core/picture/tile/planes.ts';
import { lookById } from '../looks/looks.ts';
import { giveLookBack, takeLook } from '../render/recipe-look.ts';
import { halvesOf } from '../render/linear-source.ts';
import { renderPixels } from '../render/render-frame.ts';
import type { FrameRow } from './frame-row.ts';
import { derivedPath } from './derived.ts';
import { readProxy } from './proxy.ts';

const EDGE = 480;

/** Thumbnails of earlier versions are of no use any more. */
async function removeOlder(folder: string, prefix: string, current: string): Promise<void> {
  for (const name of await readdir(folder)) {
    if (name.startsWith(prefix) && name.endsWith('.jpg') && name !== current)
      await rm(join(folder, name), { force: true });
  }
}

/** A small JPEG of the frame by a recipe, from its proxy. */
async function smallPicture(
  context: Context,
  frame: FrameRow,
  partial: PartialRecipe,
  edge: number
): Promise<Buffer> {
  const facts = frame.facts!;
  const recipe = completeRecipe(partial);
  const inputs = renderInputs(recipe, facts, await choiceFor(context, facts, recipe.lens.profile));
  const size = limitedSize(inputs.plan.output, edge);
  const look = await takeLook(recipe, (id) => lookById(context, id)).catch((error: unknown) => {
    if (error instanceof UserError) return null;
    throw error;
  });
  // A small picture without a look that is gone says more than none.
  if (!look) inputs.stages.look = null;
  const proxy = await readProxy(context, frame);
  const source = halvesOf(proxy, context.pool);
  const pixels = await renderPixels(
    { source, inputs, toWorking: facts.toWorking, look, size, depth: 8 },
    context.pool
  );
  source.close();
  givePlanesBack(proxy);
  giveLookBack(look);
  const jpeg = await sharp(pixels, { raw: { ...size, channels: 3 } })
    .jpeg({ quality: 84 })
    .toBuffer();
  giveBack(pixels);
  return jpeg;
}

export async function thumbnail(context: Context, frame: FrameRow): Promise<Buffer> {
  const path = derivedPath(context.data, frame.sha256, `thumbnail-${frame.id}-${frame.version}.jpg`);
  const kept = await readFile(path).catch(() => null);
  if (kept) return kept;
  const bytes = await smallPicture(context, frame, frame.recipe, EDGE);
  await writeWhole(path, bytes);
  await removeOlder(dirname(path), `thumbnail-${frame.id}-`, basename(path));
  return bytes;
}

/** The frame without its recipe, large enough to be looked at beside a finished picture. */
export function asShotPicture(context: Context, frame: FrameRow): Promise<Buffer> {
  return smallPicture(context, frame, asShot(), 1100);
}

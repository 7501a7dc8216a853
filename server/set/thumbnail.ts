/** Small pictures for the job view: the proxy with the frame's recipe, kept per version. */
import { readFile, readdir, rm } from 'node:fs/promises';
import { basename, dirname, join } from 'node:path';
import sharp from 'sharp';
import { renditionFacts } from '../../core/optics/rendition-facts.ts';
import type { Rendition } from '../../core/settings/rendition.ts';
import { asShot, completeRecipe } from '../../core/recipe/recipe.ts';
import type { PartialRecipe } from '../../core/recipe/recipe.ts';
import { limitedSize } from '../../core/render/plan.ts';
import { renderInputs } from '../../core/render/render-inputs.ts';
import type { Context } from '../context.ts';
import { writeWhole } from '../originals/write-whole.ts';
import { choiceFor } from '../lenses/lens-choice.ts';
import { inScope } from '../../core/picture/kernels/scope.ts';
import { keyOf } from '../../core/picture/tile/resource.ts';
import { sourceInputs } from '../../core/render/source-planes.ts';
import { asksOf, without } from '../../core/render/stages.ts';
import { storedBytes } from '../looks/looks.ts';
import { frameResources } from '../render/frame-resources.ts';
import { changeInPool, halvesOf } from '../render/linear-source.ts';
import { renderPixels } from '../render/render-frame.ts';
import type { FrameRow } from '../frames/frame-row.ts';
import { derivedPath } from '../originals/derived.ts';
import { readProxy } from '../frames/proxy.ts';

const EDGE = 480;
const LARGE_EDGE = 1800;

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
  const recipe = completeRecipe(partial);
  const facts = renditionFacts(frame.facts!, recipe.rendition);
  const inputs = renderInputs(recipe, facts, await choiceFor(context, facts, recipe.lens.profile));
  const size = limitedSize(inputs.plan.output, edge);
  return inScope(async ({ own, ownAll, atEnd }) => {
    const proxy = ownAll(
      await changeInPool(await readProxy(context, frame), sourceInputs(inputs.stages), context.pool)
    );
    const resources = frameResources(
      proxy,
      facts.toWorking,
      (path) => storedBytes(context, path),
      context.pool
    );
    atEnd(resources.close);
    // A small picture without a look that is gone says more than none.
    const gone = new Set((await resources.missing(asksOf(inputs.stages))).map(keyOf));
    const stages = without(inputs.stages, (ask) => gone.has(keyOf(ask)));
    const source = halvesOf(proxy, context.pool);
    atEnd(source.close);
    const pixels = own(
      await renderPixels(
        {
          source,
          inputs: { plan: inputs.plan, stages },
          resources,
          size,
          depth: 8
        },
        context.pool
      )
    );
    return sharp(pixels, { raw: { ...size, channels: 3 } })
      .jpeg({ quality: 84 })
      .toBuffer();
  });
}

/** A picture of the frame as it stands, kept until the frame is changed. */
async function keptPicture(
  context: Context,
  frame: FrameRow,
  { name, edge }: { name: string; edge: number }
): Promise<Buffer> {
  const path = derivedPath(context.data, frame.sha256, `${name}-${frame.id}-${frame.version}.jpg`);
  const kept = await readFile(path).catch(() => null);
  if (kept) return kept;
  const bytes = await smallPicture(context, frame, frame.recipe, edge);
  await writeWhole(path, bytes);
  await removeOlder(dirname(path), `${name}-${frame.id}-`, basename(path));
  return bytes;
}

export const thumbnail = (context: Context, frame: FrameRow): Promise<Buffer> =>
  keptPicture(context, frame, { name: 'thumbnail', edge: EDGE });

/** As large as a window, to be judged without the bench. */
export const largePicture = (context: Context, frame: FrameRow): Promise<Buffer> =>
  keptPicture(context, frame, { name: 'large', edge: LARGE_EDGE });

/** The frame by its recipe in one rendition, to be looked at beside the other. */
export const renditionPicture = (context: Context, frame: FrameRow, rendition: Rendition): Promise<Buffer> =>
  smallPicture(context, frame, { ...frame.recipe, rendition }, 700);

/** The frame without its recipe, large enough to be looked at beside a finished picture. */
export function asShotPicture(context: Context, frame: FrameRow): Promise<Buffer> {
  return smallPicture(context, frame, asShot(frame.recipe.rendition), 1100);
}

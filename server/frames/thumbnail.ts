/** Small pictures for the job view: the proxy with the frame's recipe, kept per version. */
import { readFile, readdir, rm } from 'node:fs/promises';
import { basename, dirname, join } from 'node:path';
import sharp from 'sharp';
import { asShot, completeRecipe } from '../../core/recipe/recipe.ts';
import type { PartialRecipe } from '../../core/recipe/recipe.ts';
import { limitedSize } from '../../core/render/plan.ts';
import { renderInputs } from '../../core/render/render-inputs.ts';
import type { PlacedPlanes } from '../../core/tile/planes.ts';
import { STORED_16, fillPlanes } from '../../core/tile/stored-planes.ts';
import type { App } from '../app.ts';
import { writeWhole } from '../originals/write-whole.ts';
import { choiceFor } from '../lenses/lens-choice.ts';
import { giveBack, giveBackPlanes, lentPlanes } from '../render/lent-memory.ts';
import { halvesOf } from '../render/linear-source.ts';
import { renderPixels } from '../render/render-frame.ts';
import type { FrameRow } from './frame-row.ts';
import { derivedPath } from './prepare-frame.ts';

const EDGE = 480;

/** The stored proxy as planes placed on the sensor; their memory is the caller's to give back. */
export async function readProxy(app: App, frame: FrameRow): Promise<PlacedPlanes> {
  if (!frame.proxy || !frame.facts) throw new Error(`Frame ${frame.id} has no proxy.`);
  const { width, height } = frame.proxy;
  const bytes = await readFile(derivedPath(app.data, frame.sha256, 'proxy.bin'));
  const values = new Uint16Array(bytes.buffer, bytes.byteOffset, width * height * 3);
  const planes = lentPlanes(width, height);
  fillPlanes(values, width, planes, STORED_16);
  const { size } = frame.facts;
  return { ...planes, originX: 0, originY: 0, scaleX: width / size.width, scaleY: height / size.height };
}

/** Thumbnails of earlier versions are of no use any more. */
async function removeOlder(folder: string, prefix: string, current: string): Promise<void> {
  for (const name of await readdir(folder)) {
    if (name.startsWith(prefix) && name.endsWith('.jpg') && name !== current)
      await rm(join(folder, name), { force: true });
  }
}

/** A small JPEG of the frame by a recipe, from its proxy. */
async function smallPicture(
  app: App,
  frame: FrameRow,
  partial: PartialRecipe,
  edge: number
): Promise<Buffer> {
  const facts = frame.facts!;
  const recipe = completeRecipe(partial);
  const inputs = renderInputs(recipe, facts, await choiceFor(app, facts, recipe.lens.profile));
  const size = limitedSize(inputs.plan.output, edge);
  const proxy = await readProxy(app, frame);
  const source = halvesOf(proxy, app.pool);
  const pixels = await renderPixels({ source, inputs, size, depth: 8 }, app.pool);
  source.close();
  giveBackPlanes(proxy);
  const jpeg = await sharp(pixels, { raw: { ...size, channels: 3 } })
    .jpeg({ quality: 84 })
    .toBuffer();
  giveBack(pixels);
  return jpeg;
}

export async function thumbnail(app: App, frame: FrameRow): Promise<Buffer> {
  const path = derivedPath(app.data, frame.sha256, `thumbnail-${frame.id}-${frame.version}.jpg`);
  const kept = await readFile(path).catch(() => null);
  if (kept) return kept;
  const bytes = await smallPicture(app, frame, frame.recipe, EDGE);
  await writeWhole(path, bytes);
  await removeOlder(dirname(path), `thumbnail-${frame.id}-`, basename(path));
  return bytes;
}

/** The frame without its recipe, large enough to be looked at beside a finished picture. */
export function asShotPicture(app: App, frame: FrameRow): Promise<Buffer> {
  return smallPicture(app, frame, asShot(), 1100);
}

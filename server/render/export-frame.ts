/** From a file and a recipe to a finished picture with its report. Used by the app and the command line alike. */
import { createHash } from 'node:crypto';
import { readFile } from 'node:fs/promises';
import type { FrameFacts } from '../../core/camera/frame-facts.ts';
import { completeRecipe } from '../../core/recipe/complete.ts';
import type { PartialRecipe } from '../../core/recipe/schema.ts';
import { frameFringes } from '../../core/lens/frame-fringes.ts';
import { foldRadius } from '../../core/lens/lens-model.ts';
import { limitedSize, planFrame } from '../../core/pipeline/plan.ts';
import { solveMissingAngles } from '../recipe/solve-missing-angles.ts';
import { UserError } from '../decode/user-error.ts';
import { type EncodeOptions, encode } from './encode.ts';
import { FILE_PROFILE, type LensChoice, setupFrame } from '../../core/pipeline/frame-optics.ts';
import { type WorkOptions, decodeInPool, developInPool, edgesInPool } from './linear-source.ts';
import type { Pool } from './pool.ts';
import { renderPixels } from './render-frame.ts';
import { type Report, makeReport } from './report.ts';

export interface ExportRequest {
  /** Path of the original, and its name as the user knows it. */
  path: string;
  name: string;
  recipe: PartialRecipe;
  /** Profiles that the frame can have, once its facts are known. */
  choose: (facts: FrameFacts) => LensChoice | Promise<LensChoice>;
  encoding: EncodeOptions;
  /** Bits per channel: 16 only for TIFF and PNG. */
  depth: 8 | 16;
  /** Longest edge in pixels, or null for full size. */
  longEdge: number | null;
}

export interface Exported {
  bytes: Buffer;
  report: Report;
}

const sha256 = (bytes: Uint8Array): string => createHash('sha256').update(bytes).digest('hex');

/** What a recipe may say instead of naming a profile. */
const UNNAMED = ['auto', 'none'];

/** Shares of the time that the parts take, for progress. */
const DEVELOPED = 0.35;
const RENDERED = 0.9;

export async function exportFrame(
  request: ExportRequest,
  pool: Pool,
  options: WorkOptions = {}
): Promise<Exported> {
  const { signal, onProgress = () => {} } = options;
  const { path, name, encoding, longEdge } = request;
  const decoded = await decodeInPool(path, name, pool, { signal });
  onProgress(0.1);
  const { facts, planes } = await developInPool(decoded, pool, {
    signal,
    onProgress: (share) => onProgress(0.1 + share * (DEVELOPED - 0.1))
  });
  const { lens } = completeRecipe(request.recipe);
  const wanted = lens.profile;
  const { optics, profile, terms } = setupFrame(facts, lens, await request.choose(facts));
  if (!profile && ![...UNNAMED, FILE_PROFILE].includes(wanted)) {
    throw new UserError(
      `The recipe names the lens profile "${wanted}", which is not in the catalogue. Choose another, or "none".`
    );
  }
  const recipe = completeRecipe(solveMissingAngles(request.recipe, optics, terms));
  const plan = planFrame(optics, recipe, terms);
  const fold = foldRadius(plan.projection.model, plan.projection.model.amount);
  if (fold !== null) {
    throw new UserError(
      `The lens correction folds back at ${(fold * 100).toFixed(0)} % of the way to the corner. Lower the distortion amount, bow or wave, or choose another profile.`
    );
  }
  const edges = await edgesInPool(planes, pool, { signal });
  const size = limitedSize(plan.output, longEdge);
  const depth = encoding.format === 'jpeg' ? 8 : request.depth;
  const pixels = await renderPixels(
    { source: planes, plan, facts, fringes: frameFringes(recipe.lens), size, depth },
    pool,
    {
      signal,
      onProgress: (share) => onProgress(DEVELOPED + share * (RENDERED - DEVELOPED))
    }
  );
  signal?.throwIfAborted();
  const bytes = await encode(pixels, size, facts, encoding);
  signal?.throwIfAborted();
  const report = makeReport({
    name,
    originalSha256: sha256(await readFile(path)),
    pictureSha256: sha256(bytes),
    size,
    format: encoding.format,
    facts,
    optics,
    profile,
    recipe,
    plan,
    edges,
    notices: terms?.notices ?? []
  });
  onProgress(1);
  return { bytes, report };
}

/** From a file and a recipe to a finished picture with its report. Used by the app and the command line alike. */
import { createHash } from 'node:crypto';
import { readFile } from 'node:fs/promises';
import { completeRecipe } from '../../core/recipe/complete.ts';
import type { PartialRecipe } from '../../core/recipe/schema.ts';
import { coversFrame, radialModel } from '../../core/lens/brown.ts';
import type { LensProfile } from '../../core/lens/profile.ts';
import { limitedSize, planFrame } from '../../core/pipeline/plan.ts';
import { solveMissingAngles } from '../recipe/solve-missing-angles.ts';
import { UserError } from '../decode/user-error.ts';
import { type EncodeOptions, encode } from './encode.ts';
import { chooseProfile, frameOptics, termsFor } from '../../core/pipeline/frame-optics.ts';
import { type WorkOptions, decodeInPool, developInPool } from './linear-source.ts';
import type { Pool } from './pool.ts';
import { renderPixels } from './render-frame.ts';
import { type Report, makeReport } from './report.ts';

export interface ExportRequest {
  /** Path of the original, and its name as the user knows it. */
  path: string;
  name: string;
  recipe: PartialRecipe;
  profiles: readonly LensProfile[];
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

/** Shares of the time that the parts take, for progress. */
const DEVELOPED = 0.35;
const RENDERED = 0.9;

export async function exportFrame(
  request: ExportRequest,
  pool: Pool,
  options: WorkOptions = {}
): Promise<Exported> {
  const { signal, onProgress = () => {} } = options;
  const { path, name, profiles, encoding, longEdge } = request;
  const decoded = await decodeInPool(path, name, pool, { signal });
  onProgress(0.1);
  const { facts, planes } = await developInPool(decoded, pool, {
    signal,
    onProgress: (share) => onProgress(0.1 + share * (DEVELOPED - 0.1))
  });
  const optics = frameOptics(facts);
  const wanted = request.recipe.lens?.profile ?? 'auto';
  const profile = chooseProfile(facts, wanted, profiles);
  if (!profile && wanted !== 'auto' && wanted !== 'none') {
    throw new UserError(
      `The recipe names the lens profile "${wanted}", which is not in the catalogue. Choose another, or "none".`
    );
  }
  const terms = termsFor(facts, profile);
  const recipe = completeRecipe(solveMissingAngles(request.recipe, optics, terms));
  if (
    terms &&
    recipe.lens.enabled &&
    !coversFrame(radialModel(terms.distortion, recipe.lens.distortion / 100))
  ) {
    throw new UserError(
      'The lens profile folds back inside the frame at this amount. Lower the distortion amount, or choose another profile.'
    );
  }
  const plan = planFrame(optics, recipe, terms);
  const size = limitedSize(plan.output, longEdge);
  const depth = encoding.format === 'jpeg' ? 8 : request.depth;
  const pixels = await renderPixels({ source: planes, plan, rendering: facts.rendering, size, depth }, pool, {
    signal,
    onProgress: (share) => onProgress(DEVELOPED + share * (RENDERED - DEVELOPED))
  });
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
    plan
  });
  onProgress(1);
  return { bytes, report };
}

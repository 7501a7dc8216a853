/** From a file and a recipe to finished pictures with their reports. Used by the app and the command line alike. */
import { createHash } from 'node:crypto';
import type { FrameFacts } from '../../core/optics/frame-facts.ts';
import { renditionFacts } from '../../core/optics/rendition-facts.ts';
import { type FrameSize, type Point, halfDiagonal } from '../../core/math/frame-geometry.ts';
import type { Vector3 } from '../../core/math/vector3.ts';
import { lateralFrom } from '../../core/measure/lateral/fit-lateral.ts';
import type { LateralEdge } from '../../core/measure/lateral/measure-edges.ts';
import { type Lateral, foldRadius } from '../../core/optics/lens-model.ts';
import { AS_CROPPED, type Watermark } from '../../core/picture/output/deliverable-schema.ts';
import { exactSize } from '../../core/picture/output/ratios.ts';
import {
  type BorderSettings,
  borderedSize,
  hasBorder,
  pictureWithin
} from '../../core/steps/finish/border/border-layout.ts';
import { fitBytes } from '../../core/picture/output/fit-bytes.ts';
import { type SharpenOptions } from '../../core/picture/output/sharpen-options.ts';
import { FILE_PROFILE, type LensChoice, setupFrame } from '../../core/steps/lens/frame-optics.ts';
import { limitedSize } from '../../core/render/plan.ts';
import { type RenderInputs, renderInputs } from '../../core/render/render-inputs.ts';
import { completeRecipe } from '../../core/recipe/recipe.ts';
import { atWork } from '../../core/recipe/switched-off.ts';
import type { PartialRecipe, Recipe } from '../../core/recipe/recipe.ts';
import { UserError } from '../user-error.ts';
import { solveMissingAngles } from '../../core/recipe/solve-missing-angles.ts';
import type { ColourEdges } from '../../core/steps/lens/even-colours.ts';
import { type ByItself, setByItself } from './by-itself.ts';
import { type EncodeOptions, encoderOf } from './encode.ts';
import type { Outside } from './outside.ts';
import { type FindStored, type FrameResources, frameResources } from './frame-resources.ts';
import { shippedBytes } from './shipped-bytes.ts';
import { inScope } from '../../core/picture/kernels/scope.ts';
import { sourceInputs } from '../../core/render/source-planes.ts';
import { asksOf } from '../../core/render/stages.ts';
import { meanColour } from '../../core/picture/tile/mean-colour.ts';
import { type PlacedPlanes, givePlanesBack } from '../../core/picture/tile/planes.ts';
import {
  type Halves,
  type WorkOptions,
  changeInPool,
  developInPool,
  edgesInPool,
  halvesOf
} from './linear-source.ts';
import { glassOf, lookInPool } from './look-in-pool.ts';
import { sayingMemory } from './memory-words.ts';
import type { Pool } from './pool.ts';
import { type Original, readOriginal } from './read-original.ts';
import { layOnBorder } from './lay-on-border.ts';
import { renderPixels } from './render-frame.ts';
import type { FoundEvidence } from '../../core/render/readings/found-evidence.ts';
import { type Report, makeReport } from './report.ts';
import { applyWatermark } from './watermark.ts';

export interface OpenRequest extends Original {
  /** The edges and what follows from them, where they were measured before. */
  measured?: { edges: LateralEdge[]; lateral: Lateral | null } | null;
  /** What was found by itself on the frame before (default: it is looked for). */
  found?: FoundEvidence | null;
  recipe: PartialRecipe;
  /** What is set by itself before it is rendered (default: nothing). */
  byItself?: ByItself;
  /** What was told of the camera's colours when the frame was added (default: what the file tells). */
  white?: FrameFacts['white'];
  /** Of a frame that came back from another program: its reports say so. */
  outside?: Outside | null;
  /** Profiles that the frame can have, once its facts are known. */
  choose: (facts: FrameFacts) => LensChoice | Promise<LensChoice>;
  /** What resources are made from (default: what comes with Line True). */
  findStored?: FindStored;
}

/** Edges of the developed picture, and what is found on it by itself. */
export interface Evidence {
  edges: LateralEdge[];
  found: FoundEvidence;
}

/** A frame developed once, for any number of pictures; to be closed when they are made. */
export interface OpenedFrame {
  name: string;
  facts: FrameFacts;
  /** Profiles that it can have. */
  choice: LensChoice;
  source: Halves;
  recipe: Recipe;
  resources: FrameResources;
  /** What its reports judge by, measured at the first call where it is not known. */
  evidence(): Promise<Evidence>;
  /** Working colours, as shot, of the places picked as grey. */
  greys: Vector3[];
  /** What was set by itself before it was rendered, in words. */
  byItself: string[];
  outside: Outside | null;
  originalSha256: string;
  /** Gives its memory back, once no thread works on it. */
  close(): Promise<void>;
}

export interface PictureRequest {
  encoding: EncodeOptions;
  /** Bits per channel: 16 only for TIFF and PNG. */
  depth: 8 | 16;
  /** Pixels of the picture from those of its crop at full size. */
  sizeFor: (full: FrameSize) => FrameSize;
  /** Ratio in place of the recipe's (default: as cropped). */
  ratio?: string;
  sharpening?: SharpenOptions | null;
  watermark?: Watermark | null;
  /** Largest file in bytes: the quality is lowered as far as it takes. */
  limit?: number | null;
}

export interface ExportRequest extends OpenRequest {
  encoding: EncodeOptions;
  depth: 8 | 16;
  /** Longest edge in pixels, or null for full size. */
  longEdge: number | null;
  /** Whether its report is wanted (default true): what it judges by takes as long to measure as the picture to render. */
  reported?: boolean;
}

interface Rendered {
  bytes: Buffer;
  size: FrameSize;
  quality: number;
  encodes: number;
}

export interface Exported extends Rendered {
  report: Report;
}

const sha256 = (bytes: Uint8Array): string => createHash('sha256').update(bytes).digest('hex');

/** What a recipe may say instead of naming a profile. */
const UNNAMED = ['auto', 'none'];

/** Shares of the time that the parts take, for progress. */
const DEVELOPED = 0.35;
const RENDERED = 0.85;

/** Longest edge of the half that lines are looked for on. */
const LOOKED_AT = 2048;

const halfToLookAt = (
  source: Halves,
  { width, height }: FrameSize,
  signal?: AbortSignal
): Promise<PlacedPlanes> =>
  source.halfFor(2 ** Math.max(0, Math.ceil(Math.log2(Math.max(width, height) / LOOKED_AT))), signal);

async function lookAtSource(
  source: Halves,
  { facts, recipe, choice }: Pick<OpenedFrame, 'facts' | 'recipe' | 'choice'>,
  pool: Pool,
  signal?: AbortSignal
): Promise<FoundEvidence> {
  const planes = await halfToLookAt(source, facts.size, signal);
  return (await lookInPool(planes, glassOf(facts, recipe, choice), pool, signal)).evidence;
}

/** Unpacks and develops a frame, and settles its recipe. */
export async function openFrame(
  {
    measured,
    found: kept,
    recipe: partial,
    byItself,
    white,
    outside = null,
    choose,
    findStored = shippedBytes,
    ...original
  }: OpenRequest,
  pool: Pool,
  { signal, onProgress = () => {} }: WorkOptions = {}
): Promise<OpenedFrame> {
  const { decoded, sha256: originalSha256 } = await readOriginal(pool, original, {
    signal,
    edges: !measured
  });
  if (measured && decoded.kind === 'mosaic') decoded.mosaic.lateral = measured.lateral;
  onProgress(0.25);
  const { facts: told, planes: developed } = await developInPool(decoded, pool, {
    signal,
    onProgress: (share) => onProgress(0.25 + share * 0.65)
  });
  /** What is to be given back where anything fails. */
  let planes: PlacedPlanes | null = developed;
  let resources: FrameResources | null = null;
  let smaller: Halves | null = null;
  try {
    const { lens, rendition } = atWork(completeRecipe(partial));
    const facts = renditionFacts(white === undefined ? told : { ...told, white }, rendition);
    const choice = await choose(facts);
    const setup = setupFrame(facts, lens, choice);
    if (!setup.profile && ![...UNNAMED, FILE_PROFILE].includes(lens.profile)) {
      throw new UserError(
        `The recipe names the lens profile "${lens.profile}", which is not in the catalogue. Choose another, or "none".`
      );
    }
    /** Of the picture as it came, which is looked at once, if it was not before. */
    let asItCame: Promise<LateralEdge[]> | null = measured ? Promise.resolve(measured.edges) : null;
    const edgesAsItCame = (): Promise<LateralEdge[]> =>
      (asItCame ??= edgesInPool(developed, pool, { signal }));
    const colourEdges = async (): Promise<ColourEdges> => {
      if (measured) return measured;
      const edges = await edgesAsItCame();
      // A mosaic's were read with it, for demosaicing.
      const lateral =
        decoded.kind === 'mosaic'
          ? (decoded.mosaic.lateral ?? null)
          : lateralFrom(edges, halfDiagonal(facts.size));
      return { edges, lateral };
    };
    const asked = byItself
      ? await inScope(async ({ atEnd }) => {
          const halves = halvesOf(developed, pool);
          atEnd(halves.close);
          const small = await halfToLookAt(halves, facts.size, signal);
          return setByItself(partial, byItself, { planes: small, facts, choice, colourEdges }, pool, signal);
        })
      : { recipe: partial, said: [] };
    const solved = solveMissingAngles(asked.recipe, setup.optics, setup.terms);
    if (!solved.ok) throw new UserError(solved.reason);
    const recipe = atWork(completeRecipe(solved.recipe));
    const { stages } = renderInputs(recipe, facts, choice);
    const changes = sourceInputs(stages);
    planes = null;
    const changed = await changeInPool(developed, changes, pool, { signal });
    planes = changed;
    const source = halvesOf(changed, pool);
    smaller = source;
    resources = frameResources(changed, facts.toWorking, findStored, pool, source);
    // What is missing is said before anything is rendered.
    const lease = await resources.lease(asksOf(stages), signal);
    lease.end();
    const greys = recipe.colour.neutrals
      .map((at) => meanColour(changed, at as Point, facts.size, facts.toWorking))
      .filter((colour) => colour !== null);
    let begun: Promise<Evidence> | null = null;
    const measure = async (): Promise<Evidence> => {
      const [edges, found] = await Promise.all([
        changes.length === 0 ? edgesAsItCame() : edgesInPool(changed, pool, { signal }),
        kept ?? lookAtSource(source, { facts, recipe, choice }, pool, signal)
      ]);
      return { edges, found };
    };
    const opened = {
      name: original.name,
      facts,
      choice,
      source,
      recipe,
      resources,
      evidence() {
        begun ??= measure();
        // Whoever waits for it hears of a failure; until then nobody may.
        begun.catch(() => {});
        return begun;
      },
      greys,
      byItself: asked.said,
      outside,
      originalSha256
    };
    return {
      ...opened,
      async close() {
        // A thread may still look at the picture.
        await begun?.catch(() => {});
        source.close();
        opened.resources.close();
        givePlanesBack(changed);
      }
    };
  } catch (error) {
    resources?.close();
    smaller?.close();
    if (planes) givePlanesBack(planes);
    throw error;
  }
}

async function rendered(
  opened: OpenedFrame,
  request: PictureRequest,
  pool: Pool,
  { signal, onProgress = () => {} }: WorkOptions
): Promise<Rendered & { recipe: Recipe; inputs: RenderInputs }> {
  const { choice, facts, source } = opened;
  const { encoding, ratio = AS_CROPPED, sharpening = null, watermark, limit } = request;
  const { recipe } = ratio === AS_CROPPED ? opened : { recipe: withRatio(opened.recipe, ratio) };
  const inputs = renderInputs(recipe, facts, choice, { space: encoding.space, sharpening });
  const { plan } = inputs;
  const fold = foldRadius(plan.projection.model, plan.projection.model.amount);
  if (fold !== null) {
    throw new UserError(
      `The lens correction folds back at ${(fold * 100).toFixed(0)} % of the way to the corner. Lower the distortion amount, bow or wave, or choose another profile.`
    );
  }
  const border = borderFor(recipe, ratio);
  const whole = request.sizeFor(
    exactSize(recipe.crop.ratio) ? plan.output : borderedSize(border, plan.output)
  );
  const size = pictureWithin(border, plan.output, whole);
  const deep = encoding.format === 'tiff' || encoding.format === 'png';
  const fitted = await inScope(async ({ own }) => {
    const pixels = own(
      await sayingMemory(size, () =>
        renderPixels(
          {
            source,
            inputs,
            resources: opened.resources,
            size,
            depth: deep ? request.depth : 8
          },
          pool,
          { signal, onProgress: (share) => onProgress(share * RENDERED) }
        )
      )
    );
    if (watermark) await applyWatermark(pixels, size, watermark);
    signal?.throwIfAborted();
    const { space = 'srgb' } = encoding;
    const laid = hasBorder(border) ? own(layOnBorder(pixels, size, whole, border, space)) : pixels;
    const encodeAt = encoderOf(laid, whole, facts, encoding);
    return limit
      ? fitBytes(encodeAt, limit, encoding.quality)
      : {
          ok: true as const,
          encoded: await encodeAt(encoding.quality),
          quality: encoding.quality,
          encodes: 1
        };
  });
  signal?.throwIfAborted();
  if (!fitted.ok) {
    const [least, most] = [fitted.smallest, limit!].map((bytes) => Math.ceil(bytes / 1000));
    throw new UserError(
      `A picture of ${whole.width} × ${whole.height} px cannot be made smaller than ${least} kB, and ${most} kB is the limit. Allow a larger file, or fewer pixels.`
    );
  }
  const { encoded: bytes, quality, encodes } = fitted;
  return { bytes, size: whole, quality, encodes, recipe, inputs };
}

/** One picture of an opened frame, with its report. */
export async function renderPicture(
  opened: OpenedFrame,
  request: PictureRequest,
  pool: Pool,
  { signal, onProgress = () => {} }: WorkOptions = {}
): Promise<Exported> {
  // What the report judges by is measured beside the rendering.
  const evidence = opened.evidence();
  const { recipe, inputs, ...picture } = await rendered(opened, request, pool, { signal, onProgress });
  const { plan, optics, terms, profile } = inputs;
  const report = makeReport({
    name: opened.name,
    originalSha256: opened.originalSha256,
    pictureSha256: sha256(picture.bytes),
    size: picture.size,
    format: request.encoding.format,
    facts: opened.facts,
    optics,
    profile,
    recipe,
    plan,
    ...(await evidence),
    greys: opened.greys,
    byItself: opened.byItself,
    outside: opened.outside,
    notices: terms?.notices ?? []
  });
  onProgress(1);
  return { ...picture, report };
}

/** The border of a recipe; what is to have a ratio has it with its border. */
function borderFor({ finish }: Recipe, ratio: string): BorderSettings {
  return hasBorder(finish) && ratio.includes(':') ? { ...finish, borderPaper: ratio } : finish;
}

/** A recipe with another ratio in hand. */
const withRatio = (recipe: Recipe, ratio: string): Recipe => ({
  ...recipe,
  crop: { ...recipe.crop, ratio, enabled: true }
});

/** One file to one picture; without its report where that is not wanted. */
export async function exportFrame(
  request: ExportRequest,
  pool: Pool,
  { signal, onProgress = () => {} }: WorkOptions = {}
): Promise<Rendered & { report: Report | null; byItself: string[] }> {
  const opened = await openFrame(request, pool, {
    signal,
    onProgress: (share) => onProgress(share * DEVELOPED)
  });
  const { encoding, depth, longEdge, reported = true } = request;
  const wanted: PictureRequest = { encoding, depth, sizeFor: (full) => limitedSize(full, longEdge) };
  const work = {
    signal,
    onProgress: (share: number) => onProgress(DEVELOPED + share * (1 - DEVELOPED))
  };
  try {
    const picture = reported
      ? await renderPicture(opened, wanted, pool, work)
      : { ...(await rendered(opened, wanted, pool, work)), report: null };
    const { bytes, size, quality, encodes, report } = picture;
    return { bytes, size, quality, encodes, report, byItself: opened.byItself };
  } finally {
    await opened.close();
  }
}

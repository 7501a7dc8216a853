/**
 * A recipe and the facts of its frame made into geometry: projection, falloff, valid area and crop. Shared by
 * the bench, the server and the command line, so that what is seen is what is delivered.
 */
import { ratioInHand } from '../steps/crop/step.ts';
import type { FrameOptics } from '../steps/lens/frame-optics.ts';
import { type FrameSize, type Point, halfDiagonal } from '../math/frame-geometry.ts';
import { fitCrop } from '../steps/crop/fit-crop.ts';
import { keepingCrop, markedPieces } from '../steps/crop/keep-marked.ts';
import { largestCrop } from '../steps/crop/largest-rectangle.ts';
import { wantedCrop } from '../steps/crop/compose.ts';
import { exactSize, pixelSize, ratioValue } from '../picture/output/ratios.ts';
import type { Rectangle } from '../steps/crop/rectangle.ts';
import { validArea } from '../steps/crop/valid-area.ts';
import type { Falloff } from '../optics/falloff.ts';
import { frameFalloff, frameLens } from '../steps/lens/frame-lens.ts';
import type { LensTerms } from '../optics/profile.ts';
import { type Angles, rotationFromAngles } from '../math/rotation.ts';
import { IDENTITY } from '../math/matrix3.ts';
import type { LinesSettings } from '../steps/lines/step.ts';
import type { Recipe } from '../recipe/recipe.ts';
import type { View } from '../picture/tile/mesh.ts';
import type { Projection } from '../picture/geometry/projection.ts';

export interface Plan {
  projection: Projection;
  falloff: Falloff | null;
  /** Standard deviation of the lens's blur, in field units, as its profile says it; null: it says nothing, or is switched off. */
  softness: LensTerms['softness'];
  /** Outline of the real pixels in upright coordinates. */
  valid: Point[];
  crop: Rectangle;
  /** True when the recipe's own rectangle had to be moved or shrunk to hold only real pixels. */
  cropMoved: boolean;
  /** Full output size of the crop. */
  output: FrameSize;
}

/** The angles in force: what the recipe says, less what it holds back. */
export function effectiveAngles({ lines }: Recipe): Angles {
  if (!lines.enabled) return { roll: 0, pitch: 0, yaw: 0 };
  return {
    roll: lines.roll * (1 - lines.holdBackRoll / 100),
    pitch: lines.pitch * (1 - lines.holdBackPitch / 100),
    yaw: lines.yaw * (1 - lines.holdBackYaw / 100)
  };
}

export function planProjection(optics: FrameOptics, recipe: Recipe, terms: LensTerms | null): Projection {
  const angles = effectiveAngles(recipe);
  const still = angles.roll === 0 && angles.pitch === 0 && angles.yaw === 0;
  return {
    size: optics.size,
    focal: optics.focal,
    model: frameLens(recipe.lens, terms, optics.focal),
    rotation: still ? IDENTITY : rotationFromAngles(angles),
    stretch: recipe.lines.enabled ? 1 + recipe.lines.stretch / 100 : 1
  };
}

/** Crop used when the correction leaves no room at all: a speck in the middle, so that the readings can say so. */
const SPECK: Rectangle = { x: 0, y: 0, width: 0.01, height: 0.01 };

/** The crop after shift and scale: they move and enlarge the picture in it, so the crop goes the other way. */
function placeInCrop(crop: Rectangle, { shiftX, shiftY, scale }: LinesSettings): Rectangle {
  if (shiftX === 0 && shiftY === 0 && scale === 100) return crop;
  const width = (crop.width * 100) / scale;
  const height = (crop.height * 100) / scale;
  return { x: crop.x - (shiftX / 100) * width, y: crop.y + (shiftY / 100) * height, width, height };
}

function planCrop(
  recipe: Recipe,
  projection: Projection,
  valid: readonly Point[]
): { crop: Rectangle; moved: boolean } {
  const { enabled, blank, middle, keepMarked } = recipe.crop;
  const value = ratioValue(ratioInHand(recipe.crop), projection.size);
  const own = enabled ? wantedCrop(recipe.crop, value) : null;
  const largest = own ? null : largestCrop(valid, value, (enabled && middle) || undefined);
  const keeps = largest && keepMarked && enabled && recipe.lines.enabled;
  const composed =
    own ?? (keeps ? keepingCrop(largest, valid, markedPieces(recipe.lines.marks, projection)) : largest);
  if (!composed) return { crop: SPECK, moved: false };
  const placed = recipe.lines.enabled ? placeInCrop(composed, recipe.lines) : composed;
  if ((placed === composed && !own) || (enabled && blank)) return { crop: placed, moved: false };
  const fitted = fitCrop(placed, valid);
  return { crop: fitted ?? SPECK, moved: fitted !== placed };
}

export function planFrame(optics: FrameOptics, recipe: Recipe, terms: LensTerms | null): Plan {
  const projection = planProjection(optics, recipe, terms);
  const valid = validArea(projection);
  const { crop, moved } = planCrop(recipe, projection, valid);
  const falloff = frameFalloff(recipe.lens, terms);
  const unit = halfDiagonal(optics.size);
  const named = recipe.crop.enabled ? ratioValue(recipe.crop.ratio, optics.size) : null;
  const exact = recipe.crop.enabled ? exactSize(recipe.crop.ratio) : null;
  const output = exact ?? pixelSize(crop.width * unit, named ?? crop.width / crop.height);
  const softness = (recipe.lens.enabled && terms?.softness) || null;
  return { projection, falloff, softness, valid, crop, cropMoved: moved, output };
}

/** Output size with a limit on the long edge; never larger than full size. */
export function limitedSize(output: FrameSize, longEdge: number | null): FrameSize {
  const long = Math.max(output.width, output.height);
  if (!longEdge || longEdge >= long) return output;
  const ratio = output.width / output.height;
  return output.width >= output.height
    ? { width: longEdge, height: Math.max(1, Math.round(longEdge / ratio)) }
    : { width: Math.max(1, Math.round(longEdge * ratio)), height: longEdge };
}

/**
 * The view that fills an output of whole pixels from a crop. Rounding to pixels leaves the output's ratio a
 * hair off the crop's; the view stays inside the crop, centred.
 */
export function cropView(crop: Rectangle, output: FrameSize): View {
  const pixel = Math.min(crop.width / output.width, crop.height / output.height);
  return {
    left: crop.x - (pixel * output.width) / 2,
    top: crop.y - (pixel * output.height) / 2,
    pixel,
    width: output.width,
    height: output.height
  };
}

/**
 * A recipe and the facts of its frame made into geometry: projection, falloff, valid area and crop. Shared by
 * the bench, the server and the command line, so that what is seen is what is delivered.
 */
import { type FrameSize, type Point, halfDiagonal } from '../camera/frame-geometry.ts';
import { fitCrop } from '../crop/fit-crop.ts';
import { largestCrop } from '../crop/largest-rectangle.ts';
import { pixelSize, ratioValue } from '../crop/ratios.ts';
import type { Rectangle } from '../crop/rectangle.ts';
import { validArea } from '../crop/valid-area.ts';
import type { Falloff } from '../lens/falloff.ts';
import { frameFalloff, frameLens } from '../lens/frame-lens.ts';
import type { LensTerms } from '../lens/profile.ts';
import { type Angles, IDENTITY, rotationFromAngles } from '../lines/rotation.ts';
import type { Recipe } from '../recipe/schema.ts';
import type { View } from './map-mesh.ts';
import type { Projection } from './projection.ts';

export interface FrameOptics {
  size: FrameSize;
  /** Focal length in field units. */
  focal: number;
  focalKnown: boolean;
}

export interface Plan {
  projection: Projection;
  falloff: Falloff | null;
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
  const share = 1 - lines.holdBack / 100;
  return { roll: lines.roll * share, pitch: lines.pitch * share, yaw: lines.yaw * share };
}

export function planProjection(optics: FrameOptics, recipe: Recipe, terms: LensTerms | null): Projection {
  const angles = effectiveAngles(recipe);
  const still = angles.roll === 0 && angles.pitch === 0 && angles.yaw === 0;
  return {
    size: optics.size,
    focal: optics.focal,
    model: frameLens(recipe.lens, terms, optics.focal),
    rotation: still ? IDENTITY : rotationFromAngles(angles)
  };
}

/** Crop used when the correction leaves no room at all: a speck in the middle, so that the readings can say so. */
const SPECK: Rectangle = { x: 0, y: 0, width: 0.01, height: 0.01 };

function planCrop(
  recipe: Recipe,
  size: FrameSize,
  valid: readonly Point[]
): { crop: Rectangle; moved: boolean } {
  const { enabled, ratio, rectangle } = recipe.crop;
  if (enabled && rectangle) {
    const fitted = fitCrop(rectangle, valid);
    return { crop: fitted ?? SPECK, moved: fitted !== rectangle };
  }
  const value = ratioValue(enabled ? ratio : 'original', size);
  const largest = largestCrop(valid, value);
  return { crop: largest ?? SPECK, moved: false };
}

export function planFrame(optics: FrameOptics, recipe: Recipe, terms: LensTerms | null): Plan {
  const projection = planProjection(optics, recipe, terms);
  const valid = validArea(projection);
  const { crop, moved } = planCrop(recipe, optics.size, valid);
  const falloff = frameFalloff(recipe.lens, terms);
  const unit = halfDiagonal(optics.size);
  const named = recipe.crop.enabled ? ratioValue(recipe.crop.ratio, optics.size) : null;
  const output = pixelSize(crop.width * unit, named ?? crop.width / crop.height);
  return { projection, falloff, valid, crop, cropMoved: moved, output };
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

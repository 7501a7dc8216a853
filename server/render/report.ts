/** The proof that goes along with a picture: what was measured, and how the picture was made. */
import type { FrameSize } from '../../core/camera/frame-geometry.ts';
import type { Rectangle } from '../../core/crop/rectangle.ts';
import type { LensProfile } from '../../core/lens/profile.ts';
import type { Angles } from '../../core/lines/rotation.ts';
import { type FrameOptics, type Plan, effectiveAngles } from '../../core/pipeline/plan.ts';
import { type Readings, measureReadings } from '../../core/readings/measure.ts';
import type { Recipe } from '../../core/recipe/schema.ts';
import type { FrameFacts } from '../../core/camera/frame-facts.ts';

export interface Report {
  report: 'line-true';
  version: 1;
  original: { name: string; sha256: string; pixels: FrameSize };
  picture: { sha256: string; pixels: FrameSize; format: string };
  camera: { make: string | null; model: string | null };
  lens: {
    text: string | null;
    focalLength: number | null;
    profile: { id: string; maker: string; lens: string } | null;
    /** Radial terms in force (Brown), in units of half the diagonal. */
    distortion: readonly number[] | null;
    falloffAmount: number | null;
  };
  /** Degrees; the correction in force. */
  rotation: Angles;
  holdBack: number;
  /** Centre and size in the corrected picture, in units of half the diagonal. */
  crop: Rectangle & { ratio: string; movedToRealPixels: boolean };
  readings: Readings;
  /** Readings that could not be taken, with the reason. */
  notMeasured: string[];
}

export interface ReportFacts {
  name: string;
  originalSha256: string;
  pictureSha256: string;
  size: FrameSize;
  format: string;
  facts: FrameFacts;
  optics: FrameOptics;
  profile: LensProfile | null;
  recipe: Recipe;
  plan: Plan;
}

export function makeReport(given: ReportFacts): Report {
  const { facts, optics, profile, recipe, plan } = given;
  const readings = measureReadings(plan, optics, recipe.lines.marks);
  const notMeasured: string[] = [];
  if (!readings.plumb) notMeasured.push('plumb: no plumb lines are marked');
  if (!readings.level) notMeasured.push('level: no level lines are marked');
  if (readings.falloff === null) notMeasured.push('falloff: no lens profile is applied');
  const applied = recipe.lens.enabled ? profile : null;
  return {
    report: 'line-true',
    version: 1,
    original: { name: given.name, sha256: given.originalSha256, pixels: facts.size },
    picture: { sha256: given.pictureSha256, pixels: given.size, format: given.format },
    camera: { make: facts.make, model: facts.model },
    lens: {
      text: facts.lens,
      focalLength: facts.focalLength,
      profile: applied && { id: applied.id, maker: applied.maker, lens: applied.lens },
      distortion: applied ? plan.projection.model.k : null,
      falloffAmount: plan.falloff?.amount ?? null
    },
    rotation: effectiveAngles(recipe),
    holdBack: recipe.lines.holdBack,
    crop: { ...plan.crop, ratio: recipe.crop.ratio, movedToRealPixels: plan.cropMoved },
    readings,
    notMeasured
  };
}

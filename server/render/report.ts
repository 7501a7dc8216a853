/** The proof that goes along with a picture: what was measured, and how the picture was made. */
import { type Outside, outsideSentence } from './outside.ts';
import { type Disclosure, disclose } from '../../core/steps/mend/disclosure.ts';
import { linearMatrix } from '../../core/steps/colour/balance-stage.ts';
import type { Vector3 } from '../../core/math/vector3.ts';
import type { FrameSize } from '../../core/math/frame-geometry.ts';
import type { Rectangle } from '../../core/steps/crop/rectangle.ts';
import type { LateralEdge } from '../../core/measure/lateral/measure-edges.ts';
import type { Lateral } from '../../core/optics/lens-model.ts';
import type { LensProfile } from '../../core/optics/profile.ts';
import { type MeasuredLength, measureLengths } from '../../core/steps/lines/measure-lengths.ts';
import type { Angles } from '../../core/math/rotation.ts';
import { type Plan, effectiveAngles } from '../../core/render/plan.ts';
import type { FrameOptics } from '../../core/steps/lens/frame-optics.ts';
import type { FoundEvidence } from '../../core/render/readings/found-evidence.ts';
import { type Readings, measureReadings } from '../../core/render/readings/measure.ts';
import { type StepState, stepStates } from '../../core/recipe/step-state.ts';
import type { Recipe } from '../../core/recipe/recipe.ts';
import type { FrameFacts } from '../../core/optics/frame-facts.ts';

export interface Report {
  report: 'line-true';
  version: 1;
  original: { name: string; sha256: string; pixels: FrameSize };
  picture: { sha256: string; pixels: FrameSize; format: string };
  /** How each working step stands, in their order. */
  steps: { name: string; state: StepState }[];
  camera: { make: string | null; model: string | null };
  lens: {
    text: string | null;
    focalLength: number | null;
    profile: { id: string; maker: string; lens: string } | null;
    /** Where the distortion in force comes from. */
    source: 'profile' | 'picture' | 'hand' | 'none';
    projection: string;
    /** Radial terms in force, coefficients of r¹…r⁶, in units of half the diagonal; and their centre. */
    distortion: readonly number[];
    centre: readonly number[];
    amount: number;
    /** Sizes of red and blue in force against green, coefficients of r⁰…r⁴. */
    lateral: Lateral | null;
    falloffAmount: number | null;
    notices: readonly string[];
  };
  /** Degrees; the correction in force. */
  rotation: Angles;
  /** Percent of each angle that was left undone. */
  holdBack: Angles;
  focal: { halfDiagonals: number; from: string };
  /** Lengths read on the front, in the unit given. */
  lengths: { unit: string; measured: MeasuredLength[] } | null;
  /** Centre and size in the corrected picture, in units of half the diagonal. */
  crop: Rectangle & { ratio: string; movedToRealPixels: boolean };
  readings: Readings;
  /** What was mended or taken out; reports of earlier deliveries know nothing of it. */
  mended?: Disclosure;
  /** That it was changed in another program, in words; null: it was not, as far as is known. */
  outside?: string | null;
  /** What was set by itself before it was rendered, and from which evidence, in words. */
  byItself: readonly string[];
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
  edges: LateralEdge[];
  /** What was found by itself, for where nothing is marked. */
  found: FoundEvidence;
  /** Working colours, as shot, of the places picked as grey. */
  greys: readonly Vector3[];
  /** What was set by itself before it was rendered. */
  byItself: readonly string[];
  /** Of a frame that came back from another program. */
  outside: Outside | null;
  notices: readonly string[];
}

function distortionSource({ lens }: Recipe, profile: LensProfile | null): Report['lens']['source'] {
  if (!lens.enabled) return 'none';
  if (lens.solved) return 'picture';
  if (profile && profile.distortion.length > 0) return 'profile';
  return lens.bow !== 0 || lens.wave !== 0 || lens.projection !== 'profile' ? 'hand' : 'none';
}

/** What readings are taken by. */
export type ReadingFacts = Pick<
  ReportFacts,
  'facts' | 'optics' | 'recipe' | 'plan' | 'edges' | 'found' | 'greys'
>;

/** The readings of a picture, and which could not be taken, with the reason. */
export function takeReadings({ facts, optics, recipe, plan, edges, found, greys }: ReadingFacts): {
  readings: Readings;
  notMeasured: string[];
} {
  const readings = measureReadings(plan, optics, {
    marks: recipe.lines.marks,
    curves: recipe.lens.curves,
    edges,
    found,
    rectangle: recipe.lines.rectangle,
    greys,
    linear: linearMatrix(recipe, facts) ?? undefined
  });
  const notMeasured: string[] = [];
  if (!readings.plumb) notMeasured.push('plumb: no plumb lines are marked, and none were found for sure');
  if (!readings.level) notMeasured.push('level: no level lines are marked, and none were found for sure');
  if (!readings.straight)
    notMeasured.push('straight: no edges are marked straight, and none were found for sure');
  if (!readings.fringe) notMeasured.push('fringe: too few strong edges in the outer third');
  if (!readings.neutral) notMeasured.push('neutral: no place was picked as grey');
  if (readings.falloff === null) notMeasured.push('falloff: no lens profile is applied');
  return { readings, notMeasured };
}

export function makeReport(given: ReportFacts): Report {
  const { facts, optics, profile, recipe, plan } = given;
  const lengths = measureLengths(recipe.lines.measures, plan.projection);
  const applied = recipe.lens.enabled ? profile : null;
  const { model } = plan.projection;
  return {
    report: 'line-true',
    version: 1,
    original: { name: given.name, sha256: given.originalSha256, pixels: facts.size },
    picture: { sha256: given.pictureSha256, pixels: given.size, format: given.format },
    steps: stepStates(recipe, { profileFound: profile !== null }),
    camera: { make: facts.make, model: facts.model },
    lens: {
      text: facts.lens,
      focalLength: facts.focalLength,
      profile: applied && { id: applied.id, maker: applied.maker, lens: applied.lens },
      source: distortionSource(recipe, applied),
      projection: model.projection,
      distortion: model.terms,
      centre: model.centre,
      amount: model.amount,
      lateral: model.lateral,
      falloffAmount: plan.falloff?.amount ?? null,
      notices: given.notices
    },
    rotation: effectiveAngles(recipe),
    holdBack: {
      roll: recipe.lines.holdBackRoll,
      pitch: recipe.lines.holdBackPitch,
      yaw: recipe.lines.holdBackYaw
    },
    focal: { halfDiagonals: optics.focal, from: optics.focalFrom },
    lengths: lengths && { unit: recipe.lines.unit, measured: lengths },
    crop: { ...plan.crop, ratio: recipe.crop.ratio, movedToRealPixels: plan.cropMoved },
    mended: disclose(recipe),
    outside: given.outside && outsideSentence(given.outside),
    byItself: given.byItself,
    ...takeReadings(given)
  };
}

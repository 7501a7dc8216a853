/**
 * The stages that make a picture of a frame, in their physical order, whatever order the user works in. Nothing but
 * `render-tile.ts` and `source-planes.ts` runs them.
 */
import { areaColourStage } from '../steps/areas/colour-stage.ts';
import { areaDetailStage } from '../steps/areas/detail-stage.ts';
import { areaGlowStage } from '../steps/areas/glow-stage.ts';
import { areaLightStage } from '../steps/areas/light-stage.ts';
import { areaRevisionStage } from '../steps/areas/revision-stage.ts';
import { askForLaid } from '../steps/areas/another-sky/laid-resource.ts';
import { areaSkyStage } from '../steps/areas/another-sky/sky-stage.ts';
import { areaShowStage } from '../steps/areas/show-stage.ts';
import { areaWeightsStage } from '../steps/areas/weights-stage.ts';
import { balanceStage } from '../steps/colour/balance-stage.ts';
import { clippedStage } from '../steps/colour/clipped-stage.ts';
import { gradeStage } from '../steps/colour/grade-stage.ts';
import { lookStage } from '../steps/colour/looks/look-stage.ts';
import type { FrameFacts } from '../optics/frame-facts.ts';
import type { OutputSpace } from '../colour/rgb-spaces.ts';
import { edgeStage } from '../steps/finish/edge/edge-stage.ts';
import { glowStage } from '../steps/finish/glow/glow-stage.ts';
import { grainStage } from '../steps/finish/grain/grain-stage.ts';
import { noiseStage } from '../steps/finish/noise/noise-stage.ts';
import { sharpeningStage } from '../steps/finish/sharpening/sharpening-stage.ts';
import { falloffStage } from '../steps/lens/falloff-stage.ts';
import { fringeStage } from '../steps/lens/fringe-stage.ts';
import { encodeStage } from '../picture/output/encode-stage.ts';
import type { SharpenOptions } from '../picture/output/sharpen-options.ts';
import { sharpenStage } from '../picture/output/sharpen-stage.ts';
import type { Recipe } from '../recipe/recipe.ts';
import { RENDITION } from '../settings/rendition.ts';
import { mendStage } from '../steps/mend/source-stage.ts';
import { relightStage } from '../steps/tone/relight-stage.ts';
import { secondRelightStage } from '../steps/tone/second-relight-stage.ts';
import { toneStage } from '../steps/tone/stage.ts';
import type { Ask } from '../picture/tile/resource.ts';
import type { NeighbourhoodStage, PixelStage, SourceStage } from '../picture/tile/stage.ts';
import { geometryStage } from './geometry-stage.ts';
import type { Plan } from './plan.ts';
import { cutsLight } from './first-rendition/cuts-light.ts';
import { firstLookStage } from './first-rendition/look-stage.ts';
import { firstRelightStage } from './first-rendition/relight-stage.ts';
import { firstToneStage } from './first-rendition/tone-stage.ts';
import { workingStage } from './working-stage.ts';

/** How a picture leaves. */
export interface Output {
  space: OutputSpace;
  /** Sharpening at its own size; null: none. */
  sharpening: SharpenOptions | null;
}

/** All that a stage can ask about a frame to prepare its data. */
export interface StageGiven extends Output {
  recipe: Recipe;
  facts: Pick<FrameFacts, 'rendering' | 'toWorking' | 'white' | 'noise' | 'iso' | 'size'>;
  plan: Plan;
  /** Whether light above white is cut off before it is shown. */
  cutsLight: boolean;
  /** The frame with what was laid into it, where something was. */
  laid: Ask | null;
}

const STAGES = [
  mendStage,
  noiseStage,
  geometryStage,
  fringeStage,
  areaDetailStage,
  sharpeningStage,
  clippedStage,
  falloffStage,
  workingStage,
  areaWeightsStage,
  areaSkyStage,
  glowStage,
  areaGlowStage,
  relightStage,
  firstRelightStage,
  secondRelightStage,
  balanceStage,
  areaLightStage,
  toneStage,
  firstToneStage,
  gradeStage,
  areaColourStage,
  lookStage,
  firstLookStage,
  areaRevisionStage,
  edgeStage,
  grainStage,
  areaShowStage,
  encodeStage,
  sharpenStage
] as const;

type EachStage = (typeof STAGES)[number];
export type StageName = EachStage['name'];

/** What each stage works by, as plain data; null where it has nothing to do. */
export type StageInputs = {
  [S in EachStage as S['name']]: ReturnType<S['prepare']>;
};

/** A stage without what tells its data from another's, for what treats all of them alike. */
export type AnySource = SourceStage<string, StageGiven, unknown>;
export type AnyNeighbourhood = NeighbourhoodStage<StageName, StageGiven, unknown>;
export type AnyPixel = PixelStage<StageName, StageGiven, unknown>;

/** Those that change developed planes, before the geometry. */
export const SOURCE_STAGES = STAGES.filter(
  ({ kind }) => (kind as string) === 'source'
) as unknown as readonly AnySource[];
/** Those after the geometry. */
export const TILE_STAGES = STAGES.filter(
  ({ kind }) => kind === 'neighbourhood' || kind === 'pixel'
) as unknown as readonly (AnyNeighbourhood | AnyPixel)[];
export const PIXEL_STAGES = TILE_STAGES.filter(({ kind }) => kind === 'pixel') as readonly AnyPixel[];

/** What the light of a frame is measured on, if not on the frame as it was developed. */
export const laidOf = ({ areaSky, geometry }: Pick<StageInputs, 'areaSky' | 'geometry'>): Ask | null =>
  askForLaid(areaSky, geometry);

export function prepareStages(given: Omit<StageGiven, 'cutsLight' | 'laid'>): StageInputs {
  const skies = given.recipe.rendition === RENDITION ? areaSkyStage.prepare(given) : null;
  const laid = askForLaid(skies, given.plan.projection);
  const all: StageGiven = { ...given, cutsLight: cutsLight(given), laid };
  return Object.fromEntries(STAGES.map((stage) => [stage.name, stage.prepare(all)])) as StageInputs;
}

/** What the stages with something to do read beside a tile. */
export const asksOf = (stages: StageInputs): Ask[] =>
  TILE_STAGES.flatMap((stage) => {
    const data: unknown = stages[stage.name];
    return data === null ? [] : [...(stage.reads?.(data) ?? [])];
  });

/** The same without stages that read what cannot be had. */
export const without = (stages: StageInputs, isMissing: (ask: Ask) => boolean): StageInputs =>
  Object.fromEntries(
    STAGES.map((stage) => {
      const data = stages[stage.name];
      const reads = data !== null && 'reads' in stage ? stage.reads?.(data as never) : undefined;
      return [stage.name, reads?.some(isMissing) ? null : data];
    })
  ) as StageInputs;

/**
 * The stages that make a picture of a developed frame, in their physical order, whatever order the user works in. Nothing
 * but `render-tile.ts` runs them.
 */
import { balanceStage } from '../steps/colour/balance-stage.ts';
import { clippedStage } from '../steps/colour/clipped-stage.ts';
import { gradeStage } from '../steps/colour/grade-stage.ts';
import { workingStage } from './working-stage.ts';
import type { FrameFacts } from '../optics/frame-facts.ts';
import type { OutputSpace } from '../colour/rgb-spaces.ts';
import { falloffStage } from '../steps/lens/falloff-stage.ts';
import { fringeStage } from '../steps/lens/fringe-stage.ts';
import { encodeStage } from '../picture/output/encode-stage.ts';
import type { Recipe } from '../recipe/recipe.ts';
import { relightStage } from '../steps/tone/relight-stage.ts';
import { lookStage } from '../steps/colour/looks/look-stage.ts';
import { toneStage } from '../steps/tone/stage.ts';
import type { AreaStage, PixelStage } from '../picture/tile/tile.ts';
import { geometryStage } from './geometry-stage.ts';
import type { Plan } from './plan.ts';

/** All that a stage can ask about a frame to prepare its data. */
export interface StageGiven {
  recipe: Recipe;
  facts: Pick<FrameFacts, 'rendering' | 'toWorking' | 'white'>;
  plan: Plan;
  space: OutputSpace;
  /** Whether light above white is of use to the stages after the working space. */
  keepsHeadroom: boolean;
}

const STAGES = [
  geometryStage,
  fringeStage,
  clippedStage,
  falloffStage,
  workingStage,
  relightStage,
  balanceStage,
  toneStage,
  gradeStage,
  lookStage,
  encodeStage
] as const;

type EachStage = (typeof STAGES)[number];
export type StageName = EachStage['name'];

/** What each stage works by, as plain data; null where it has nothing to do. */
export type StageInputs = {
  [S in EachStage as S['name']]: ReturnType<S['prepare']>;
};

/** Whether the broad light of the frame has to be known. */
export const needsLight = ({ relight }: StageInputs): boolean => relight !== null;

/** The look that is laid over the picture, by what it is known by. */
export const lookOf = ({ look }: StageInputs): string | null => look && look.look;

export function prepareStages(given: StageGiven): StageInputs {
  return Object.fromEntries(STAGES.map((stage) => [stage.name, stage.prepare(given)])) as StageInputs;
}

/** The stages without what tells one's data from another's, for what treats all of them alike. */
export const AREA_STAGES = STAGES.filter(({ kind }) => kind === 'area') as unknown as readonly AreaStage<
  StageName,
  StageGiven,
  unknown
>[];
export const PIXEL_STAGES = STAGES.filter(({ kind }) => kind === 'pixel') as unknown as readonly PixelStage<
  StageName,
  StageGiven,
  unknown
>[];

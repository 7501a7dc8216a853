/** The working steps, in the order of the course. */
import { areasStep } from '../steps/areas/step.ts';
import { colourStep } from '../steps/colour/step.ts';
import { cropStep } from '../steps/crop/step.ts';
import { finishStep } from '../steps/finish/step.ts';
import { lensStep } from '../steps/lens/step.ts';
import { linesStep } from '../steps/lines/step.ts';
import { mendStep } from '../steps/mend/step.ts';
import { toneStep } from '../steps/tone/step.ts';
import type { AnyStep, Settings } from '../settings/step.ts';

const STEPS = [lensStep, linesStep, cropStep, toneStep, colourStep, areasStep, mendStep, finishStep] as const;

type EachStep = (typeof STEPS)[number];
export type StepName = EachStep['name'];

/** The settings of each step, by its name. */
export type StepSettings = {
  [S in EachStep as S['name']]: Settings<S['schema']>;
};

/** The steps without what tells one from another, for work that is the same for all of them. */
export const EVERY_STEP: readonly (AnyStep & { name: StepName })[] = STEPS;

/** What a step is called. */
export const stepLabel = (name: StepName): string => stepByName(name)!.schema.properties.enabled.label;

export function stepByName(name: string): (AnyStep & { name: StepName }) | null {
  return EVERY_STEP.find((step) => step.name === name) ?? null;
}

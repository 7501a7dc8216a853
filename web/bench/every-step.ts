/** What each step brings to the bench. */
import { EVERY_STEP, type StepName } from '$core/recipe/steps.ts';
import { areasParts } from './areas/areas-parts.ts';
import { colourParts } from './colour/colour-parts.ts';
import { cropParts } from './crop/crop-parts.ts';
import { finishParts } from './finish/finish-parts.ts';
import { lensParts } from './lens/lens-parts.ts';
import { linesParts } from './lines/lines-parts.ts';
import { mendParts } from './mend/mend-parts.ts';
import { toneParts } from './tone/tone-parts.ts';
import type { StepParts } from './parts/step-parts.ts';

export const PARTS: Record<StepName, StepParts> = {
  lens: lensParts,
  lines: linesParts,
  crop: cropParts,
  tone: toneParts,
  colour: colourParts,
  areas: areasParts,
  mend: mendParts,
  finish: finishParts
};

/** Something of each step, by its name. */
export const mapSteps = <T>(make: (parts: StepParts) => T): Record<StepName, T> =>
  Object.fromEntries(EVERY_STEP.map(({ name }) => [name, make(PARTS[name])])) as Record<StepName, T>;

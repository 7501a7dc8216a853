/** What a picture of where something acts is made from, in the geometry of a frame: for looking at it. */
import { maskSpecOf, type Shape } from '../steps/areas/shape.ts';
import type { RenderInputs } from './render-inputs.ts';
import type { StageInputs } from './stages.ts';

const nothingOf = (stages: StageInputs): StageInputs =>
  Object.fromEntries(Object.keys(stages).map((name) => [name, null])) as unknown as StageInputs;

/** What sharpening acts on, white where wholly; null where nothing is sharpened. */
export function sharpenedStages(stages: StageInputs): StageInputs | null {
  const { mend, noise, geometry, fringe, areaDetail, sharpening, encode } = stages;
  if (!sharpening) return null;
  return {
    ...nothingOf(stages),
    ...{ mend, noise, geometry, fringe, areaDetail },
    sharpening: { ...sharpening, show: true },
    encode: { ...encode!, space: 'srgb' }
  };
}

/** Weights as grey: white where all of a place belongs to the shape. */
export function maskStages(
  { stages, plan: { falloff } }: Pick<RenderInputs, 'stages' | 'plan'>,
  shape: Shape
): StageInputs {
  return {
    ...nothingOf(stages),
    geometry: stages.geometry,
    falloff: stages.falloff,
    working: stages.working,
    areaWeights: { areas: [{ id: shape.id, mask: maskSpecOf(shape), opacity: 1 }], keeps: false, falloff },
    areaShow: { area: shape.id },
    encode: { ...stages.encode!, space: 'srgb' }
  };
}

/** What a picture of a mask is made from, in the geometry of a frame: for looking at where an area acts. */
import { maskSpecOf, type Shape } from '../steps/areas/shape.ts';
import type { RenderInputs } from './render-inputs.ts';
import type { StageInputs } from './stages.ts';

/** Weights as grey: white where all of a place belongs to the shape. */
export function maskStages(
  { stages, plan: { falloff } }: Pick<RenderInputs, 'stages' | 'plan'>,
  shape: Shape
): StageInputs {
  const nothing = Object.fromEntries(
    Object.keys(stages).map((name) => [name, null])
  ) as unknown as StageInputs;
  return {
    ...nothing,
    geometry: stages.geometry,
    falloff: stages.falloff,
    working: stages.working,
    areaWeights: { areas: [{ id: shape.id, mask: maskSpecOf(shape), opacity: 1 }], keeps: false, falloff },
    areaShow: { area: shape.id },
    encode: { ...stages.encode!, space: 'srgb' }
  };
}

/** The front that Lines trued up, found anew: on another frame it lies where that frame's own lines have it. */
import type { Projection } from '../../../picture/geometry/projection.ts';
import type { Mark } from '../../lines/mark.ts';
import { markedFront } from '../../lines/marked-front.ts';
import type { Shape } from '../shape.ts';
import type { Part } from './part.ts';

const isFront = (part: Part): boolean => part.kind === 'polygon' && part.front === true;

export const hasFronts = (shapes: readonly Pick<Shape, 'parts'>[]): boolean =>
  shapes.some(({ parts }) => parts.some(isFront));

/** Shapes whose fronts are those of other marks; where these tell of none they stay as they are. */
export function refindFronts<S extends Pick<Shape, 'parts'>>(
  shapes: readonly S[],
  marks: readonly Mark[],
  projection: Projection
): S[] {
  const points = markedFront(marks, projection);
  if (!points) return [...shapes];
  return shapes.map((shape) => ({
    ...shape,
    parts: shape.parts.map((part) => (isFront(part) ? ({ ...part, points } as Part) : part))
  }));
}

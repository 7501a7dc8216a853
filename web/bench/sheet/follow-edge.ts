/** Field positions along a polyline of the sheet: a chord there is straight in the corrected picture, not on the sensor. */
import type { Point } from '$core/math/frame-geometry.ts';

/** Places between two corners of the polyline. */
const BETWEEN = 24;

export function followed(places: readonly Point[], toField: (place: Point) => Point | null): Point[] {
  const dense = places
    .slice(1)
    .flatMap((place, i) =>
      Array.from({ length: BETWEEN }, (_, n): Point => [
        places[i][0] + ((place[0] - places[i][0]) * (n + 1)) / BETWEEN,
        places[i][1] + ((place[1] - places[i][1]) * (n + 1)) / BETWEEN
      ])
    );
  return [places[0], ...dense].flatMap((place) => {
    const field = toField(place);
    return field ? [field] : [];
  });
}

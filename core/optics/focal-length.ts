/** Half the diagonal of a 36 x 24 mm frame, in millimetres. */
export const FULL_FRAME_HALF_DIAGONAL = Math.hypot(36, 24) / 2;

/** Focal length, in 36 x 24 mm terms, taken when a file says nothing: a usual architectural wide angle. */
export const ASSUMED_FOCAL_35 = 28;

export interface FocalFacts {
  /** Focal length of the lens in millimetres, if the file gives one. */
  focalLength?: number | null;
  /** Focal length in 36 x 24 mm terms, if the file gives one. */
  focalLength35?: number | null;
  /** Half the diagonal of the sensor in millimetres, if it is known. */
  sensorHalfDiagonal?: number | null;
}

export interface FieldFocal {
  /** Focal length in field units (half diagonals). */
  focal: number;
  /** Whether the figure is known from the file or assumed. */
  known: boolean;
}

const positive = (value: number | null | undefined): value is number =>
  typeof value === 'number' && Number.isFinite(value) && value > 0;

/**
 * Focal length in field units from what a file says of it. The sensor's own size is preferred to the
 * 36 x 24 mm equivalent, because files round the latter to whole millimetres.
 */
export function fieldFocal(facts: FocalFacts): FieldFocal {
  if (positive(facts.focalLength) && positive(facts.sensorHalfDiagonal)) {
    return { focal: facts.focalLength / facts.sensorHalfDiagonal, known: true };
  }
  if (positive(facts.focalLength35)) {
    return { focal: facts.focalLength35 / FULL_FRAME_HALF_DIAGONAL, known: true };
  }
  const focal35 = positive(facts.focalLength) ? facts.focalLength : ASSUMED_FOCAL_35;
  return { focal: focal35 / FULL_FRAME_HALF_DIAGONAL, known: false };
}

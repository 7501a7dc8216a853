/** What a profile corrects, as curves over the image height. */
import { transmission } from '$core/optics/falloff.ts';
import { distortRadius, lensModel, lateralShift } from '$core/optics/lens-model.ts';
import { type LensProfile, profileTerms } from '$core/optics/profile.ts';

export interface ProfileCurves {
  /** Image height, 0 in the middle and 1 in the corner. */
  height: number[];
  /** Percent by which the radius is off. */
  distortion: number[] | null;
  /** Pixels of a 24-megapixel frame by which red and blue are off. */
  red: number[] | null;
  blue: number[] | null;
  /** EV against the middle. */
  falloff: number[] | null;
}

const POINTS = 101;
/** Half the diagonal of 24 megapixels, 3:2, in pixels. */
const UNIT = 3606;

export function profileCurves(
  profile: LensProfile,
  focalLength: number,
  aperture: number | null
): ProfileCurves {
  const sensorHalfDiagonal = profile.sensorHalfDiagonal;
  const terms = profileTerms(profile, { focalLength, aperture, sensorHalfDiagonal });
  const height = Array.from({ length: POINTS }, (_, i) => i / (POINTS - 1));
  const focal = (terms.realFocalLength ?? focalLength) / sensorHalfDiagonal;
  const model = terms.distortion && lensModel({ projection: terms.projection, focal, ...terms.distortion });
  return {
    height,
    distortion: model && height.map((r) => (r === 0 ? 0 : (distortRadius(r, model) / r - 1) * 100)),
    red: terms.lateral && height.map((r) => lateralShift(terms.lateral!.red, r) * r * UNIT),
    blue: terms.lateral && height.map((r) => lateralShift(terms.lateral!.blue, r) * r * UNIT),
    falloff:
      terms.shading && !terms.shading.map
        ? height.map((r) => Math.log2(transmission(terms.shading!.terms, r * r)))
        : null
  };
}

/**
 * How a lens lays angles from its axis onto the sensor. A rectilinear lens puts a ray at angle θ at f tan θ; fisheyes
 * follow other laws (Kannala & Brandt 2006; the last one is Thoby's fit to a widespread fisheye, 2012).
 */
export const LENS_PROJECTIONS = [
  'rectilinear',
  'equidistant',
  'equisolid',
  'stereographic',
  'orthographic',
  'sine-fitted'
] as const;

export type LensProjection = (typeof LENS_PROJECTIONS)[number];

const FITTED_SCALE = 1.47;
const FITTED_ANGLE = 0.713;

/** Radius at which a lens of focal length f puts what a rectilinear one would put at radius r. */
export function projectRadius(r: number, projection: LensProjection, f: number): number {
  if (projection === 'rectilinear') return r;
  const theta = Math.atan(r / f);
  switch (projection) {
    case 'equidistant':
      return f * theta;
    case 'equisolid':
      return 2 * f * Math.sin(theta / 2);
    case 'stereographic':
      return 2 * f * Math.tan(theta / 2);
    case 'orthographic':
      return f * Math.sin(theta);
    case 'sine-fitted':
      return FITTED_SCALE * f * Math.sin(FITTED_ANGLE * theta);
  }
}

/** Derivative of projectRadius by r. */
export function projectSlope(r: number, projection: LensProjection, f: number): number {
  if (projection === 'rectilinear') return 1;
  const theta = Math.atan(r / f);
  const turn = 1 / (1 + (r / f) ** 2);
  switch (projection) {
    case 'equidistant':
      return turn;
    case 'equisolid':
      return Math.cos(theta / 2) * turn;
    case 'stereographic':
      return turn / Math.cos(theta / 2) ** 2;
    case 'orthographic':
      return Math.cos(theta) * turn;
    case 'sine-fitted':
      return FITTED_SCALE * FITTED_ANGLE * Math.cos(FITTED_ANGLE * theta) * turn;
  }
}

/**
 * The models of open XML calibration data, as terms of ours. That format counts radii in half the shorter side of the
 * sensor (falloff: in half its diagonal) and lets the polynomials change the scale in the middle; ours keep it.
 */

/** Half diagonals in units of half the shorter side. */
export const shortSideScale = (aspectRatio: number): number => Math.hypot(aspectRatio, 1);

/** Terms of d = r (c0 + c1 r + c2 r² …) for scale 1 in the middle and radii in half diagonals; null when c0 is none. */
function normalise(c: readonly number[], scale: number): number[] | null {
  const [c0, ...rest] = c;
  if (!(c0 > 0.05)) return null;
  const terms = rest.map((value, i) => (value * scale ** (i + 1)) / c0 ** (i + 2));
  while (terms.length > 1 && terms[terms.length - 1] === 0) terms.pop();
  return terms;
}

/** d = r (1 - k1 + k1 r²) */
export const thirdOrder = (k1: number, aspectRatio: number): number[] | null =>
  normalise([1 - k1, 0, k1], shortSideScale(aspectRatio));

/** d = r (1 + k1 r² + k2 r⁴) */
export const fifthOrder = (k1: number, k2: number, aspectRatio: number): number[] | null =>
  normalise([1, 0, k1, 0, k2], shortSideScale(aspectRatio));

/** d = r (a r³ + b r² + c r + 1 - a - b - c) */
export const abc = (a: number, b: number, c: number, aspectRatio: number): number[] | null =>
  normalise([1 - a - b - c, c, b, a], shortSideScale(aspectRatio));

/** Size of a colour: r' = r (b r² + c r + v). */
export const lateralCubic = (b: number, c: number, v: number, aspectRatio: number): number[] => {
  const scale = shortSideScale(aspectRatio);
  return [v - 1, c * scale, b * scale * scale];
};

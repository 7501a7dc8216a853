/**
 * The plain base curve of raw pictures: scene-linear to display-linear, both 0..1.
 *
 * The photoreceptor response of Naka & Rushton (1966), scaled so that 1 stays 1: a slight toe, a lift of
 * about half a stop in the midtones (sensors are exposed to keep highlights) and a soft shoulder.
 */
const EXPONENT = 1.15;
const HALF = 0.8 ** EXPONENT;

export function baseCurve(linear: number): number {
  if (linear <= 0) return 0;
  if (linear >= 1) return 1;
  const response = linear ** EXPONENT;
  return (response * (1 + HALF)) / (response + HALF);
}

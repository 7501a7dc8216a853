/** Chromaticity of daylight (CIE 015:2018, 4.1.2), continued smoothly below 4000 K where it is of use. */
export function daylight(kelvin: number): [number, number] {
  const t = 1000 / kelvin;
  const x =
    kelvin <= 7000
      ? 0.244063 + 0.09911 * t + 2.9678 * t ** 2 - 4.607 * t ** 3
      : 0.23704 + 0.24748 * t + 1.9018 * t ** 2 - 2.0064 * t ** 3;
  return [x, -3 * x ** 2 + 2.87 * x - 0.275];
}

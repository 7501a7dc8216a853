/**
 * The root under which colours are compared, as photon noise spreads them, and what light loses by it: a mean of roots, squared, is
 * less than the mean by their variance.
 */

/** Added under the root: below, where all is noise, the root would be too steep. */
let floor: f32 = 0.001;
let rootFloor: f32 = 0.0316227766;
/** What is lost of red and blue, in parts for no light and for light, over light and the floor. */
let darkR: f32 = 0;
let lightR: f32 = 0;
let darkB: f32 = 0;
let lightB: f32 = 0;

export function describeRoot(under: f32, redDark: f32, redLight: f32, blueDark: f32, blueLight: f32): void {
  floor = under;
  rootFloor = sqrt(under);
  darkR = redDark;
  lightR = redLight;
  darkB = blueDark;
  lightB = blueLight;
}

/** √(value + floor), and below zero on along its tangent. */
export function compressed(value: v128): v128 {
  const zero = f32x4.splat(0);
  const root = f32x4.sqrt(f32x4.add(f32x4.pmax(value, zero), f32x4.splat(floor)));
  return f32x4.add(root, f32x4.mul(f32x4.pmin(value, zero), f32x4.splat(0.5 / rootFloor)));
}

export function expanded(value: v128): v128 {
  const least = f32x4.splat(rootFloor);
  const high = f32x4.pmax(value, least);
  const square = f32x4.sub(f32x4.mul(high, high), f32x4.splat(floor));
  return f32x4.add(square, f32x4.mul(f32x4.sub(f32x4.pmin(value, least), least), f32x4.splat(2 * rootFloor)));
}

function regained(root: v128, dark: f32, light: f32): v128 {
  const value = expanded(root);
  const above = f32x4.pmax(value, f32x4.splat(0));
  const lost = f32x4.add(f32x4.splat(dark), f32x4.mul(above, f32x4.splat(light)));
  return f32x4.add(value, f32x4.div(lost, f32x4.add(above, f32x4.splat(floor))));
}

export function regainedRed(root: v128): v128 {
  return regained(root, darkR, lightR);
}

export function regainedBlue(root: v128): v128 {
  return regained(root, darkB, lightB);
}

/** The root under which colours are compared, as photon noise spreads them. */

/** Added under the root: below, where all is noise, the root would be too steep. */
const FLOOR: f32 = 0.001;
const ROOT_FLOOR: f32 = 0.0316227766;

/** √(value + floor), and below zero on along its tangent. */
export function compressed(value: v128): v128 {
  const zero = f32x4.splat(0);
  const root = f32x4.sqrt(f32x4.add(f32x4.pmax(value, zero), f32x4.splat(FLOOR)));
  return f32x4.add(root, f32x4.mul(f32x4.pmin(value, zero), f32x4.splat(0.5 / ROOT_FLOOR)));
}

export function expanded(value: v128): v128 {
  const floor = f32x4.splat(ROOT_FLOOR);
  const high = f32x4.pmax(value, floor);
  const square = f32x4.sub(f32x4.mul(high, high), f32x4.splat(FLOOR));
  return f32x4.add(
    square,
    f32x4.mul(f32x4.sub(f32x4.pmin(value, floor), floor), f32x4.splat(2 * ROOT_FLOOR))
  );
}

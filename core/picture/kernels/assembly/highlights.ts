/** Light above white: folded as `tile/highlights.ts` says, and back. */

export function folded(light: f32): f32 {
  return light <= 1 ? light : 1 + Mathf.log(light);
}

/** Values of planes to the light that they stand for, in place; `count` is a multiple of 4 or the planes are padded. */
export function unfold(at: usize, count: i32): void {
  const one = f32x4.splat(1);
  const end = at + ((<usize>count) << 2);
  for (; at + 16 <= end; at += 16) {
    if (!v128.any_true(f32x4.gt(v128.load(at), one))) continue;
    for (let k: usize = at; k < at + 16; k += 4) unfoldOne(k);
  }
  for (; at < end; at += 4) unfoldOne(at);
}

function unfoldOne(at: usize): void {
  const value = load<f32>(at);
  if (value > 1) store<f32>(at, Mathf.exp(value - 1));
}

/** Colours that a space cannot hold, brought to its edge in OKLab. */
import { cube, cubeRoot, entry, mixed } from './vectors';

/** Halvings of the share of chroma that is kept: finer than a tenth of a just noticeable difference. */
const HALVINGS = 11;
/** What counts as within. */
const NEARLY: f32 = 1e-5;

/** Lightness up to which chroma alone gives way, and that from which all is white. */
const KNEE: f32 = 0.75;
const WHITE: f32 = 1.25;

/**
 * Linear colours of which one is below 0 or above 1, brought to the edge of the space at the hue of OKLab (Ottosson 2020): along a
 * line to the grey of their lightness. That of light colours is lower by a shoulder, so that they go to white over a while, not all
 * at once (as in Ottosson 2021, where it moves to the middle; here to white). `numbers`: nine to cone responses, nine from their roots
 * to lightness, a and b, nine back to the roots, nine back to the space. Padded to fours.
 */
export function mapIntoGamut(r: usize, g: usize, b: usize, count: i32, numbers: usize): void {
  const toLab = numbers + 36,
    fromLab = numbers + 72,
    fromRoots = numbers + 108;
  const zero = f32x4.splat(0),
    one = f32x4.splat(1),
    two = f32x4.splat(2),
    half = f32x4.splat(0.5);
  const least = f32x4.splat(-NEARLY),
    most = f32x4.splat(1 + NEARLY);
  const bytes = (<usize>count) << 2;
  for (let at: usize = 0; at < bytes; at += 16) {
    const red = v128.load(r + at),
      green = v128.load(g + at),
      blue = v128.load(b + at);
    const low = f32x4.pmin(f32x4.pmin(red, green), blue),
      high = f32x4.pmax(f32x4.pmax(red, green), blue);
    const beyond = v128.or(f32x4.lt(low, least), f32x4.gt(high, most));
    if (!v128.any_true(beyond)) continue;
    const l = cubeRoot(mixed(numbers, 0, red, green, blue)),
      m = cubeRoot(mixed(numbers, 3, red, green, blue)),
      s = cubeRoot(mixed(numbers, 6, red, green, blue));
    const light = f32x4.pmax(zero, mixed(toLab, 0, l, m, s));
    const x = f32x4.pmin(
      one,
      f32x4.pmax(zero, f32x4.mul(f32x4.sub(light, f32x4.splat(KNEE)), f32x4.splat(1 / (WHITE - KNEE))))
    );
    // As steep as lightness itself at the knee, and level at white.
    const shoulder = f32x4.add(
      f32x4.splat(KNEE),
      f32x4.mul(f32x4.splat(1 - KNEE), f32x4.mul(x, f32x4.sub(two, x)))
    );
    const grey = f32x4.pmin(light, shoulder);
    const rise = f32x4.sub(light, grey);
    const a = mixed(toLab, 3, l, m, s),
      bb = mixed(toLab, 6, l, m, s);
    // Roots of cone responses along the line: from the grey on.
    const slopeL = f32x4.add(
        rise,
        f32x4.add(f32x4.mul(entry(fromLab, 1), a), f32x4.mul(entry(fromLab, 2), bb))
      ),
      slopeM = f32x4.add(rise, f32x4.add(f32x4.mul(entry(fromLab, 4), a), f32x4.mul(entry(fromLab, 5), bb))),
      slopeS = f32x4.add(rise, f32x4.add(f32x4.mul(entry(fromLab, 7), a), f32x4.mul(entry(fromLab, 8), bb)));
    let kept = zero,
      step = half;
    let outR = grey,
      outG = grey,
      outB = grey;
    for (let n = 0; n <= HALVINGS; n++) {
      const share = n == HALVINGS ? kept : f32x4.add(kept, step);
      const l3 = cube(f32x4.add(grey, f32x4.mul(slopeL, share))),
        m3 = cube(f32x4.add(grey, f32x4.mul(slopeM, share))),
        s3 = cube(f32x4.add(grey, f32x4.mul(slopeS, share)));
      outR = mixed(fromRoots, 0, l3, m3, s3);
      outG = mixed(fromRoots, 3, l3, m3, s3);
      outB = mixed(fromRoots, 6, l3, m3, s3);
      const within = v128.and(
        f32x4.ge(f32x4.pmin(f32x4.pmin(outR, outG), outB), least),
        f32x4.le(f32x4.pmax(f32x4.pmax(outR, outG), outB), most)
      );
      kept = v128.bitselect(share, kept, within);
      step = f32x4.mul(step, half);
    }
    v128.store(r + at, v128.bitselect(outR, red, beyond));
    v128.store(g + at, v128.bitselect(outG, green, beyond));
    v128.store(b + at, v128.bitselect(outB, blue, beyond));
  }
}

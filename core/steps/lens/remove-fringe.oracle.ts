/** What the kernels of fringe removal have to compute, in plain words and double precision: for tests alone. */
import { LAB_TO_ROOTS, REC2020_TO_LMS, ROOTS_TO_LAB } from '../../colour/oklab.ts';
import { invert3, multiply } from '../../math/matrix3.ts';
import type { Planes } from '../../picture/tile/planes.ts';
import type { FringeColour, FringeOptions } from './remove-fringe.ts';
import { greatestAbout, leastAbout } from './box-morphology.oracle.ts';

/** Change of lightness (0…1) next to a fringe: from here on it begins to count, and counts in full. */
const WEAK_EDGE = 0.1;
const STRONG_EDGE = 0.25;
/** Chroma below this is no colour that anyone sees. */
const NO_COLOUR = 0.006;
/** Hues this much beyond the range, in degrees, are taken in part. */
const SOFT = 15;

const radiusOf = (width: number): number => Math.max(1, Math.ceil(width / 2));

const smooth = (value: number, low: number, high: number): number => {
  const t = Math.min(1, Math.max(0, (value - low) / (high - low)));
  return t * t * (3 - 2 * t);
};

/** Share of a hue (radians) that belongs to a fringe colour. */
function belongs(hue: number, colour: FringeColour): number {
  let apart = Math.abs((hue * 180) / Math.PI - colour.hue) % 360;
  if (apart > 180) apart = 360 - apart;
  return 1 - smooth(apart, colour.range / 2, colour.range / 2 + SOFT);
}

/** Removes fringes from planes in place. */
export function removeFringePlainly(
  planes: Planes,
  { colours, width: widest, toWorking }: FringeOptions
): void {
  const active = colours.filter((colour) => colour.amount > 0);
  if (active.length === 0) return;
  const { width, height, r, g, b } = planes;
  const size = width * height;
  const radius = radiusOf(widest);
  const toLms = multiply(REC2020_TO_LMS, toWorking);
  const fromLms = invert3(toLms);
  const lightness = new Float32Array(size);
  const aPlane = new Float32Array(size);
  const bPlane = new Float32Array(size);
  const m = ROOTS_TO_LAB;
  for (let i = 0; i < size; i++) {
    const l = Math.cbrt(toLms[0] * r[i] + toLms[1] * g[i] + toLms[2] * b[i]);
    const n = Math.cbrt(toLms[3] * r[i] + toLms[4] * g[i] + toLms[5] * b[i]);
    const s = Math.cbrt(toLms[6] * r[i] + toLms[7] * g[i] + toLms[8] * b[i]);
    lightness[i] = m[0] * l + m[1] * n + m[2] * s;
    aPlane[i] = m[3] * l + m[4] * n + m[5] * s;
    bPlane[i] = m[6] * l + m[7] * n + m[8] * s;
  }
  const taken = new Float32Array(size);
  for (const colour of active) {
    const chroma = new Float32Array(size);
    // Few pixels have a fringe's hue: only they are looked at more closely.
    const coloured: number[] = [];
    for (let i = 0; i < size; i++) {
      const c = Math.hypot(aPlane[i], bPlane[i]);
      if (c <= NO_COLOUR) continue;
      chroma[i] = c * belongs(Math.atan2(bPlane[i], aPlane[i]), colour);
      if (chroma[i] > 0) coloured.push(i);
    }
    // Opening: the least value of the window about each pixel, then the greatest of these.
    const eroded = new Float32Array(size);
    for (const i of coloured) eroded[i] = leastAbout(chroma, width, height, i, radius);
    for (const i of coloured) {
      const thin = chroma[i] - greatestAbout(eroded, width, height, i, radius);
      if (thin <= 0) continue;
      const change =
        greatestAbout(lightness, width, height, i, radius) - leastAbout(lightness, width, height, i, radius);
      const edge = smooth(change, WEAK_EDGE, STRONG_EDGE);
      const share = (colour.amount * edge * thin) / Math.hypot(aPlane[i], bPlane[i]);
      taken[i] = Math.min(1, taken[i] + share);
    }
  }
  const k = LAB_TO_ROOTS;
  for (let i = 0; i < size; i++) {
    if (taken[i] === 0) continue;
    const a = aPlane[i] * (1 - taken[i]);
    const bb = bPlane[i] * (1 - taken[i]);
    const l = (lightness[i] + k[1] * a + k[2] * bb) ** 3;
    const n = (lightness[i] + k[4] * a + k[5] * bb) ** 3;
    const s = (lightness[i] + k[7] * a + k[8] * bb) ** 3;
    r[i] = Math.max(0, fromLms[0] * l + fromLms[1] * n + fromLms[2] * s);
    g[i] = Math.max(0, fromLms[3] * l + fromLms[4] * n + fromLms[5] * s);
    b[i] = Math.max(0, fromLms[6] * l + fromLms[7] * n + fromLms[8] * s);
  }
}

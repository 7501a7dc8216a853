/**
 * Fringe removal: takes away thin coloured borders at strong edges (axial colour, blooming) that no change of size can.
 *
 * A fringe is a thin ridge of colour: of the picture's chroma in a fringe's hues, what a morphological opening (Serra
 * 1982) removes is thin, what it keeps is an area: a flower, a sign, a wall. Only the thin part is taken away, and only
 * next to a strong change of lightness, so that what is coloured in truth keeps its colour.
 */
import { inArena } from '../../picture/kernels/arena.ts';
import { addressOf } from '../../picture/kernels/heap.ts';
import { kernels } from '../../picture/kernels/kernels.ts';
import { LAB_TO_ROOTS, REC2020_TO_LMS, ROOTS_TO_LAB } from '../../colour/oklab.ts';
import { invert3 } from '../../math/matrix3.ts';
import { type Matrix3, multiply } from '../../math/matrix3.ts';
import { type Planes, addresses } from '../../picture/tile/planes.ts';

export interface FringeColour {
  /** 0…1. */
  amount: number;
  /** Middle of the hues, and their whole range, in degrees (of Oklab). */
  hue: number;
  range: number;
}

export interface FringeOptions {
  colours: readonly FringeColour[];
  /** Widest fringe, in pixels of these planes. */
  width: number;
  /** The planes' own colours to linear Rec.2020. */
  toWorking: Matrix3;
}

/** Widest fringe as a share of half the diagonal: 7 pixels of 24 megapixels. */
export const FRINGE_WIDTH = 0.002;
/** Change of lightness (0…1) next to a fringe: from here on it begins to count, and counts in full. */
const WEAK_EDGE = 0.1;
const STRONG_EDGE = 0.25;
/** Chroma below this is no colour that anyone sees. */
const NO_COLOUR = 0.006;
/** Hues this much beyond the range, in degrees, are taken in part. */
const SOFT = 15;

/** Rows about a band that its fringes depend on. */
export function fringeMargin(width: number): number {
  return 2 * radiusOf(width) * 2 + 2;
}

const radiusOf = (width: number): number => Math.max(1, Math.ceil(width / 2));

const radians = (degrees: number): number => (degrees * Math.PI) / 180;

/** Removes fringes from planes in place. */
export function removeFringe(planes: Planes, { colours, width: widest, toWorking }: FringeOptions): void {
  const active = colours.filter((colour) => colour.amount > 0);
  if (active.length === 0) return;
  const { width, height } = planes;
  const size = width * height;
  const radius = radiusOf(widest);
  const k = kernels();
  inArena((arena) => {
    const plane = (): number => addressOf(arena.float32(size));
    const [lightness, a, b, change, chroma, opened, across] = Array.from({ length: 7 }, plane);
    const lost = arena.float32(size).fill(0);
    const taken = addressOf(lost);
    const toLms = multiply(REC2020_TO_LMS, toWorking);
    const colour = addresses(planes);
    k.toOklab(...colour, size, arena.addressOf(toLms), arena.addressOf(ROOTS_TO_LAB), lightness, a, b);
    // The change of lightness about a pixel: the greatest value of the window less the least.
    k.extremes(lightness, width, height, radius, 1, across, change);
    k.extremes(lightness, width, height, radius, 0, across, opened);
    k.subtract(change, opened, size, change);
    for (const { amount, hue, range } of active) {
      const [cosine, sine] = [Math.cos(radians(hue)), Math.sin(radians(hue))];
      k.chromaOfHue(a, b, size, cosine, sine, radians(range / 2), radians(SOFT), NO_COLOUR, chroma);
      // Opening: the least value of the window about each pixel, then the greatest of these.
      k.extremes(chroma, width, height, radius, 0, across, opened);
      k.extremes(opened, width, height, radius, 1, across, opened);
      k.takeThin(chroma, opened, change, a, b, size, amount, WEAK_EDGE, STRONG_EDGE, taken);
    }
    const [toRoots, fromLms] = [arena.addressOf(LAB_TO_ROOTS), arena.addressOf(invert3(toLms))];
    k.loseChroma(...colour, size, lightness, a, b, taken, toRoots, fromLms);
  });
}

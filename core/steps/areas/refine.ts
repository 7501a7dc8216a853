/**
 * A mask laid along the edges of the picture. Near its edge each place asks what the picture looks like inside and outside of
 * it, and the direction that tells the two apart best (Fisher, Annals of Eugenics 7, 1936), over luminance and blue against
 * red, becomes a line for the mask: every pixel reads the line by its own colours, so that the edge is as crisp as the picture
 * (colour lines: Levin, Lischinski & Weiss, IEEE PAMI 30, 2008; read as the fast guided filter of He & Sun 2015 is).
 */
import { inArena } from '../../picture/kernels/arena.ts';
import { addressOf } from '../../picture/kernels/heap.ts';
import { kernels } from '../../picture/kernels/kernels.ts';
import type { Guide } from './guide.ts';

/** Numbers of a cell: slopes over both, an offset, and how much of the mask as it was drawn is kept. */
export const PER_CELL = 4;

/** Variance, in stops squared, that each side has at least: at no and at full sensitivity. */
const FAINTEST = 0.004;
const STRONGEST = 1.2;
/** Separation, in deviations squared, that a line is half trusted at. */
const TOLD_APART = 3;
/** Rounds in which inside and outside are told anew by what was found. */
const ROUNDS = 3;
/** Inside and outside are each told over so many radii. */
const ABOUT = 2;
/** A line's value is drawn out about its middle, since neither side is of one colour. */
const DRAWN_OUT = 1.5;
/** Difference of the mask within reach from which on a place is near to an edge. */
const AT_EDGE = 0.04;
/** Weight of what belongs neither inside nor outside. */
const SPECK = 1e-3;

/** Planes of a side: weight, light, hue, their squares and their product. */
const PLANES = 6;

/** Lines of each cell into `out`: the mask is a share of 0..1 on the guide's grid. */
export function refinedLines(
  mask: Float32Array,
  { stops, hues, grid }: Guide,
  { radius, sensitivity }: { radius: number; sensitivity: number },
  out: Float32Array
): void {
  const { width, height } = grid;
  const size = width * height;
  const cells = Math.max(1, Math.round((radius / 1000) * grid.unit));
  const least = STRONGEST * (FAINTEST / STRONGEST) ** (sensitivity / 100);
  const k = kernels();
  inArena((arena) => {
    const [across, numbers] = [
      addressOf(arena.float32(size + 2 * width + 16)),
      arena.addressOf([least, TOLD_APART, DRAWN_OUT, AT_EDGE])
    ];
    // Kernels take four cells at once.
    const whole = Math.ceil(size / 4) * 4;
    const plane = (of?: Float32Array): number => {
      const own = arena.float32(whole);
      if (of) own.set(of);
      return addressOf(own);
    };
    const [drawn, light, hue, share] = [plane(mask), plane(stops), plane(hues), plane(mask)];
    const [lowest, highest] = [plane(), plane()];
    k.extremes(drawn, width, height, cells, 0, across, lowest);
    k.extremes(drawn, width, height, cells, 1, across, highest);
    const stride = 4 * whole;
    const [inside, outside] = [0, 1].map(() => addressOf(arena.float32(PLANES * whole)));
    const lines = arena.float32(PER_CELL * whole);
    /** Means over what is about each cell. */
    const tell = (side: number): void => {
      // What is sure counts for more than what is half one and half the other.
      k.weighSide(share, light, hue, whole, side === outside ? 1 : 0, SPECK, side, stride);
      for (let n = 0; n < PLANES; n++)
        k.boxMean(side + n * stride, width, height, cells * ABOUT, across, side + n * stride);
    };
    for (let round = 0; round < ROUNDS; round++) {
      tell(inside);
      tell(outside);
      k.tellApart(
        inside,
        outside,
        stride,
        drawn,
        lowest,
        highest,
        light,
        hue,
        whole,
        numbers,
        addressOf(lines),
        share
      );
    }
    out.set(lines.subarray(0, PER_CELL * size));
  });
}

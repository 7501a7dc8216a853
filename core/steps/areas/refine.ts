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

/** Mean, variances and covariance of two features over what is weighed by one plane. */
interface Side {
  weight: Float32Array;
  light: Float32Array;
  hue: Float32Array;
  lightSquare: Float32Array;
  hueSquare: Float32Array;
  both: Float32Array;
}
const PLANES = ['weight', 'light', 'hue', 'lightSquare', 'hueSquare', 'both'] as const;

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
    const plane = (): Float32Array => arena.float32(size);
    const across = addressOf(arena.float32(size + 2 * width + 16));
    const extreme = (of: Float32Array, greatest: 0 | 1, to: Float32Array): void =>
      k.extremes(addressOf(of), width, height, cells, greatest, across, addressOf(to));
    const [lowest, highest, share] = [plane(), plane(), plane()];
    extreme(mask, 0, lowest);
    extreme(mask, 1, highest);
    share.set(mask);
    const side = (): Side => Object.fromEntries(PLANES.map((name) => [name, plane()])) as unknown as Side;
    const [inside, outside] = [side(), side()];
    /** Sums over what is about each cell. */
    const tell = (of: Side, partOf: (share: number) => number): void => {
      for (let i = 0; i < size; i++) {
        const part = partOf(share[i]);
        const weight = part * (part * part + SPECK);
        const light = stops[i];
        const hue = hues[i];
        of.weight[i] = weight;
        of.light[i] = weight * light;
        of.hue[i] = weight * hue;
        of.lightSquare[i] = weight * light * light;
        of.hueSquare[i] = weight * hue * hue;
        of.both[i] = weight * light * hue;
      }
      for (const name of PLANES) {
        const at = addressOf(of[name]);
        k.boxMean(at, width, height, cells * ABOUT, across, at);
      }
    };
    for (let round = 0; round < ROUNDS; round++) {
      // What is sure counts for more than what is half one and half the other.
      tell(inside, (part) => part);
      tell(outside, (part) => 1 - part);
      for (let i = 0, at = 0; i < size; i++, at += PER_CELL) {
        out[at] = out[at + 1] = out[at + 2] = 0;
        out[at + 3] = 1;
        if (highest[i] - lowest[i] >= AT_EDGE) lineAt(i, inside, outside, least, out, at);
        const told = out[at] * stops[i] + out[at + 1] * hues[i] + out[at + 2] + out[at + 3] * mask[i];
        share[i] = Math.min(1, Math.max(0, told));
      }
    }
  });
}

/** Writes the line that tells inside from outside about one cell; as far as nothing does, the mask is kept. */
function lineAt(i: number, inside: Side, outside: Side, least: number, out: Float32Array, at: number): void {
  const n = Math.max(1e-9, inside.weight[i]);
  const m = Math.max(1e-9, outside.weight[i]);
  const [lightIn, hueIn] = [inside.light[i] / n, inside.hue[i] / n];
  const [lightOut, hueOut] = [outside.light[i] / m, outside.hue[i] / m];
  const spread = (squares: (of: Side) => number, one: number, other: number): number =>
    (squares(inside) / n - one + squares(outside) / m - other) / 2;
  const light =
    least +
    Math.max(
      0,
      spread((of) => of.lightSquare[i], lightIn ** 2, lightOut ** 2)
    );
  const hue =
    least +
    Math.max(
      0,
      spread((of) => of.hueSquare[i], hueIn ** 2, hueOut ** 2)
    );
  const both = spread((of) => of.both[i], lightIn * hueIn, lightOut * hueOut);
  const determinant = Math.max(1e-9, light * hue - both * both);
  const [dx, dy] = [lightIn - lightOut, hueIn - hueOut];
  const x = (hue * dx - both * dy) / determinant;
  const y = (light * dy - both * dx) / determinant;
  // Squared distance of the two, in deviations (Mahalanobis).
  const apart = x * dx + y * dy;
  const sure = Math.max(0, apart / (apart + TOLD_APART));
  const scale = (sure * DRAWN_OUT) / Math.max(1e-6, apart);
  out[at] = x * scale;
  out[at + 1] = y * scale;
  out[at + 2] = sure * 0.5 - scale * (x * (lightIn + lightOut) + y * (hueIn + hueOut)) * 0.5;
  out[at + 3] = 1 - sure;
}

import { type Arena, inArena } from '../../picture/kernels/arena.ts';
import { addressOf } from '../../picture/kernels/heap.ts';
import { kernels } from '../../picture/kernels/kernels.ts';

/** Addresses of planes: a slope and an offset for each cell. */
export interface Lines {
  slopes: number;
  offsets: number;
}

export interface LineFit {
  width: number;
  height: number;
  /** Cells about each one that the line is fitted in, and averaged over. */
  radius: number;
  /** Variance of the guide, squared units, below which a change of it counts for little. */
  epsilon: number;
}

/** Values beyond a plane that means over squares of it are worked in. */
export const boxRow = (width: number): number => 2 * width + 16;

/**
 * Slopes and offsets that tell `input` from `guide` about each cell (He, Sun & Tang, IEEE PAMI 35, 2013), in memory of the
 * arena. All are addresses of planes.
 */
export function fitLines(
  guide: number,
  input: number,
  { width, height, radius, epsilon }: LineFit,
  arena: Arena
): Lines {
  const size = width * height;
  const k = kernels();
  const [slopes, offsets] = [addressOf(arena.float32(size)), addressOf(arena.float32(size))];
  inArena((own) => {
    const plane = (): number => addressOf(own.float32(size));
    const across = addressOf(own.float32(size + boxRow(width)));
    const [meanGuide, meanInput, products, squares] = [plane(), plane(), plane(), plane()];
    const mean = (of: number, out: number): void => k.boxMean(of, width, height, radius, across, out);
    const meanProduct = (other: number, out: number): void => {
      k.multiplyPlanes(guide, other, size, out);
      mean(out, out);
    };
    mean(guide, meanGuide);
    mean(input, meanInput);
    meanProduct(guide, squares);
    meanProduct(input, products);
    k.guidedLines(meanGuide, meanInput, products, squares, size, epsilon);
    mean(squares, slopes);
    mean(products, offsets);
  });
  return { slopes, offsets };
}

/** What lines make of a plane of so many values, into `out`, which may be the plane itself. All are addresses. */
export function drawLines({ slopes, offsets }: Lines, plane: number, size: number, out: number): void {
  const { addScaled, multiplyPlanes } = kernels();
  multiplyPlanes(slopes, plane, size, out);
  addScaled(offsets, size, 1, out);
}

/** Lines as numbers that stand side by side for each cell: each `stride` values of `out` hold a slope at one place and an offset at another. */
export function keepLines(
  { slopes, offsets }: Lines,
  out: Float32Array,
  stride: number,
  [slopeAt, offsetAt]: readonly [number, number]
): void {
  const { interleave } = kernels();
  const size = out.length / stride;
  interleave(slopes, size, addressOf(out), stride, slopeAt);
  interleave(offsets, size, addressOf(out), stride, offsetAt);
}

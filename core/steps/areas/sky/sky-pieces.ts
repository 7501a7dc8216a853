/** Which even pieces are sky: those that reach the upper edge, and are blue or among the lightest that there is. */
import { quantiles } from '../../../math/quantiles.ts';
import type { Parts, Piece } from './even-pieces.ts';
import type { Looks } from './looks.ts';

/** Share of the frame that a piece of sky takes up at least, in order to be found. */
const LEAST_SHARE = 0.002;
/** Cells of the smallest strip, and how far, in stops of light and of hue, it may be from sky that is found. */
const LEAST_STRIP = 40;
const SAME_LIGHT = 0.4;
const SAME_BLUE = 0.3;
/** Stops of blue against red from which on a piece is blue, and how far it may be darker than the lightest of the rest. */
const BLUE = 0.35;
const BLUE_DARKER = 3;
/** The same of a piece that is not blue: a closed sky is as light as anything. */
const GREY_DARKER = 0.7;
/** Cells over which a cloud meets blue sky, and the share of the step that one cell of it takes at most. */
const CLOUD_EDGE = 10;
const CLOUD_STEP = 0.42;

/** Even pieces that reach the upper edge and look like a sky, as 1; null: there is none. */
export function skyPieces(looks: Looks, { numbers, pieces }: Parts): Uint8Array | null {
  const size = looks.width * looks.height;
  const large = pieces.filter(({ top, cells }) => top && cells.length >= LEAST_SHARE * size);
  const every7th = Array.from({ length: Math.floor(size / 7) }, (_, i) => i * 7);
  const darker = (piece: Piece): number => {
    const number = numbers[piece.cells[0]];
    const rest = every7th.filter((i) => numbers[i] !== number);
    if (rest.length < every7th.length / 50) return 0;
    return quantiles(Float32Array.from(rest, (i) => looks.stops[i]))(0.98) - piece.light;
  };
  const blue = large.filter((piece) => piece.blue >= BLUE && darker(piece) < BLUE_DARKER);
  const blueNumbers = new Set(blue.map(({ cells }) => numbers[cells[0]]));
  const grey = large.filter(
    (piece) =>
      piece.blue < BLUE &&
      darker(piece) < GREY_DARKER &&
      (blue.length === 0 || meetsSoftly(piece, numbers, (at) => blueNumbers.has(numbers[at]), looks))
  );
  if (blue.length + grey.length === 0) return null;
  // What is left of the sky at another place of the upper edge may be a strip.
  const strips = pieces.filter(
    (piece) =>
      piece.top &&
      !large.includes(piece) &&
      piece.cells.length >= LEAST_STRIP &&
      blue.some(
        (sky) => Math.abs(sky.light - piece.light) < SAME_LIGHT && Math.abs(sky.blue - piece.blue) < SAME_BLUE
      )
  );
  const found = new Uint8Array(size);
  for (const { cells } of [...blue, ...grey, ...strips]) for (const at of cells) found[at] = 1;
  return found;
}

/** Whether a piece is blue, as sky is that is not closed. */
export const isBlue = ({ blue }: Piece): boolean => blue >= BLUE;

/** Whether a piece meets sky as clouds do, over several cells: what is built ends at once. */
export function meetsSoftly(
  { cells }: Piece,
  numbers: Int32Array,
  isSky: (cell: number) => boolean,
  { stops, width, height }: Looks
): boolean {
  const own = numbers[cells[0]];
  const steps: number[] = [];
  for (const at of cells)
    for (const [dx, dy] of [
      [1, 0],
      [-1, 0],
      [0, 1],
      [0, -1]
    ]) {
      const [x, y] = [at % width, Math.floor(at / width)];
      let [largest, reached] = [0, -1];
      for (let n = 1; n <= CLOUD_EDGE && reached < 0; n++) {
        const [px, py] = [x + n * dx, y + n * dy];
        if (px < 0 || py < 0 || px >= width || py >= height) break;
        const there = py * width + px;
        if (numbers[there] === own) break;
        largest = Math.max(largest, Math.abs(stops[there] - stops[there - dx - dy * width]));
        if (isSky(there)) reached = there;
      }
      if (reached >= 0) steps.push(largest / Math.max(0.05, Math.abs(stops[reached] - stops[at])));
    }
  return steps.length > 0 && quantiles(Float32Array.from(steps))(0.5) < CLOUD_STEP;
}

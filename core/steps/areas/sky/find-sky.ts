/**
 * The sky, found by itself: what is even, reaches the upper edge of the frame, and is blue or among the lightest that there is.
 * From there it is known what the sky looks like at each place, and all that looks so and lies near it is sky as well: also
 * between branches, where no way leads to the edge.
 */
import type { FrameSize } from '../../../math/frame-geometry.ts';
import type { Guide } from '../guide.ts';
import { type Piece, evenPieces } from './even-pieces.ts';
import { cutFaintSkyline } from './faint-skyline.ts';
import { closerTo, fillHoles, growInto } from './grow-sky.ts';
import { type Looks, reduced } from './looks.ts';
import { drawLike, isLike, lookOf } from './sky-look.ts';
import { isBlue, meetsSoftly, skyPieces } from './sky-pieces.ts';

/** Cells of the smallest piece that is judged as a whole. */
const LEAST_PIECE = 24;
/** Share of the frame's height below the lowest sky that a piece behind branches may begin in. */
const BELOW = 0.1;
/** Share of the frame of a piece that goes on below the sky, whatever it looks like; where the sky is small, a share of that. */
const LEAST_BELOW = 0.004;
const LEAST_OF_SKY = 0.15;
/** How often what was found tells what lies beside it. */
const ROUNDS = 3;

/** Shares of sky in the cells of the guide, 0..1; all 0 where none is found. */
export function findSky({ grid, stops, hues: hue }: Guide): Float32Array {
  const out = new Float32Array(stops.length);
  const fine: Looks = { width: grid.width, height: grid.height, stops, hue };
  const coarse = reduced(fine);
  const parts = evenPieces(coarse);
  const seeds = skyPieces(coarse, parts);
  if (!seeds) return out;
  let look = lookOf(seeds, coarse);
  const lowest = seeds.lastIndexOf(1) + BELOW * coarse.stops.length;
  const others = parts.pieces.filter(({ cells }) => cells.length >= LEAST_PIECE && !seeds[cells[0]]);
  const least = Math.min(
    LEAST_BELOW * coarse.stops.length,
    Math.max(LEAST_PIECE, LEAST_OF_SKY * seeds.reduce((sum, each) => sum + each, 0))
  );
  /** Towards the horizon a sky changes faster than what lies above it tells, and still without a step. */
  const goesOn = (piece: Piece): boolean =>
    piece.cells.length >= least &&
    isBlue(piece) &&
    meetsSoftly(piece, parts.numbers, (at) => seeds[at] === 1, coarse);
  for (let round = 0; round < ROUNDS; round++) {
    const alike = others.filter(
      (piece) =>
        !seeds[piece.cells[0]] &&
        ((piece.cells[0] < lowest && isLike(piece.cells, look, coarse)) || goesOn(piece))
    );
    if (alike.length === 0) break;
    for (const { cells } of alike) for (const at of cells) seeds[at] = 1;
    look = lookOf(seeds, coarse);
  }
  const grown = growInto(seeds, look, coarse);
  const clouds = fillHoles(seeds, look, coarse);
  if (grown + clouds.length > 0) look = lookOf(seeds, coarse);
  // What is even by itself and not like the sky is something else, however little it differs.
  const rest = others.filter(({ cells }) => !seeds[cells[0]]);
  for (const at of closerTo(rest, seeds, coarse)) look.near[at] = 0;
  drawLike(look, fine, out);
  cutFaintSkyline(out, fine, coarse);
  addCells(clouds, coarse, fine, out);
  return out;
}

/** Adds cells of the coarse grid to the fine one: a cloud that sky closes in is sky, however much lighter it is. */
function addCells(cells: readonly number[], coarse: FrameSize, fine: FrameSize, out: Float32Array): void {
  const across = fine.width / coarse.width;
  const down = fine.height / coarse.height;
  for (const at of cells) {
    const [column, row] = [at % coarse.width, Math.floor(at / coarse.width)];
    const right = Math.min(fine.width, Math.ceil((column + 1) * across));
    const bottom = Math.min(fine.height, Math.ceil((row + 1) * down));
    for (let y = Math.floor(row * down); y < bottom; y++)
      out.fill(1, y * fine.width + Math.floor(column * across), y * fine.width + right);
  }
}

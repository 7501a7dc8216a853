/**
 * The sky, found by itself: what is even, reaches the upper edge of the frame, and is blue or among the lightest that there is.
 * From there it is known what the sky looks like at each place, and all that looks so and lies near it is sky as well: also
 * between branches, where no way leads to the edge.
 */
import type { Guide } from '../guide.ts';
import { evenPieces } from './even-pieces.ts';
import { closerTo, fillHoles, growInto } from './grow-sky.ts';
import { type Looks, reduced } from './looks.ts';
import { drawLike, isLike, lookOf } from './sky-look.ts';
import { skyPieces } from './sky-pieces.ts';

/** Cells of the smallest piece that is judged as a whole. */
const LEAST_PIECE = 24;
/** Share of the frame's height below the lowest sky that a piece behind branches may begin in. */
const BELOW = 0.1;
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
  for (let round = 0; round < ROUNDS; round++) {
    const alike = others.filter(
      ({ cells }) => !seeds[cells[0]] && cells[0] < lowest && isLike(cells, look, coarse)
    );
    if (alike.length === 0) break;
    for (const { cells } of alike) for (const at of cells) seeds[at] = 1;
    look = lookOf(seeds, coarse);
  }
  if (growInto(seeds, look, coarse) + fillHoles(seeds, look, coarse) > 0) look = lookOf(seeds, coarse);
  // What is even by itself and not like the sky is something else, however little it differs.
  const rest = others.filter(({ cells }) => !seeds[cells[0]]);
  for (const at of closerTo(rest, seeds, coarse)) look.near[at] = 0;
  drawLike(look, fine, out);
  return out;
}

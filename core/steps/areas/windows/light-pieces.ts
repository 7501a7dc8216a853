/** Pieces of a picture that are lighter than some stops. */
import { inArena } from '../../../picture/kernels/arena.ts';
import { addressOf } from '../../../picture/kernels/heap.ts';
import { kernels } from '../../../picture/kernels/kernels.ts';
import { type Piece, piecesOf } from '../sky/even-pieces.ts';
import type { Looks } from '../sky/looks.ts';

/** Share of the longer edge that bars and twigs take up to both sides of their middle at most. */
const BAR = 0.005;
/** Cells to both sides of what parts of a piece hang together by at least. */
const THREAD = 2;
/** Share of the picture that a piece takes up at least. */
const LEAST = 0.0004;

/** Pieces closed over bars: as they hang together, and as far as they do by more than threads. */
export function lightPieces(looks: Looks, above: number): [Piece[], Piece[]] {
  const { width, height, stops } = looks;
  const reach = Math.max(1, Math.round(BAR * Math.max(width, height)));
  return inArena((arena) => {
    const plane = arena.float32(stops.length);
    for (let i = 0; i < plane.length; i++) plane[i] = stops[i] > above ? 1 : 0;
    const [at, across] = [addressOf(plane), addressOf(arena.float32(stops.length + 2 * width + 16))];
    const extremes = (greatest: 0 | 1, by: number): void =>
      kernels().extremes(at, width, height, by, greatest, across, at);
    const light = new Uint8Array(stops.length);
    const pieces = (): Piece[] => {
      for (let i = 0; i < light.length; i++) light[i] = plane[i];
      return piecesOf(light, looks).pieces.filter(({ cells }) => cells.length > LEAST * stops.length);
    };
    extremes(1, reach);
    extremes(0, reach);
    const whole = pieces();
    extremes(0, THREAD);
    extremes(1, THREAD);
    return [whole, pieces()];
  });
}

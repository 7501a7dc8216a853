/** Pieces of a picture that are even in themselves. */
import { type Looks, neighboursIn } from './looks.ts';

/** Cells to both sides over which evenness is told, and the stops of light and of hue that even cells differ by at most. */
const ABOUT = 2;
const EVEN = 0.13;
const EVEN_HUE = 0.17;
/** A change of so many stops over the wider span is an edge, however faint, where a good part of it comes at once. */
export const SPAN = 4;
const FAINT = 0.045;
const AT_ONCE = 0.5;

export interface Piece {
  cells: Int32Array;
  light: number;
  blue: number;
  /** It reaches the upper edge. */
  top: boolean;
}

export interface Parts {
  /** The piece that each cell belongs to; -1: none. */
  numbers: Int32Array;
  pieces: Piece[];
}

/** Cells that are even with those about them. */
function evenCells({ stops, hue, width, height }: Looks): Uint8Array {
  const even = new Uint8Array(width * height);
  for (let y = 0, i = 0; y < height; y++)
    for (let x = 0; x < width; x++, i++) {
      const across = (of: Float32Array, reach: number): number =>
        Math.abs(of[i + Math.min(width - 1 - x, reach)] - of[i - Math.min(x, reach)]);
      const down = (of: Float32Array, reach: number): number =>
        Math.abs(of[i + width * Math.min(height - 1 - y, reach)] - of[i - width * Math.min(y, reach)]);
      const isEdge = (change: typeof across): boolean => {
        const wide = change(stops, SPAN);
        return (
          change(stops, ABOUT) > EVEN ||
          change(hue, ABOUT) > EVEN_HUE ||
          (wide > FAINT && change(stops, 1) > AT_ONCE * wide)
        );
      };
      even[i] = isEdge(across) || isEdge(down) ? 0 : 1;
    }
  return even;
}

/** Pieces of even cells. */
export const evenPieces = (looks: Looks): Parts => piecesOf(evenCells(looks), looks);

/** Pieces of the cells that are 1; those that reach the upper edge first. */
export function piecesOf(even: Uint8Array, { stops, hue, width, height }: Looks): Parts {
  const size = width * height;
  const neighbours = neighboursIn({ width, height });
  const numbers = new Int32Array(size).fill(-1);
  const queue = new Int32Array(size);
  const pieces: Piece[] = [];
  for (let first = 0; first < size; first++) {
    if (numbers[first] >= 0 || !even[first]) continue;
    let [count, light, blue] = [1, 0, 0];
    queue[0] = first;
    numbers[first] = pieces.length;
    const visit = (at: number): void => {
      if (numbers[at] >= 0 || !even[at]) return;
      numbers[at] = pieces.length;
      queue[count++] = at;
    };
    for (let n = 0; n < count; n++) {
      const at = queue[n];
      light += stops[at];
      blue += hue[at];
      neighbours(at, visit);
    }
    const cells = queue.slice(0, count);
    pieces.push({ cells, light: light / count, blue: blue / count, top: first < width });
  }
  return { numbers, pieces };
}

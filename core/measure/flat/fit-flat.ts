/**
 * Falloff and colour shading from a picture of something flat and evenly lit. Block means are fitted, for each colour, by
 * an even polynomial of the radius; an even slope of the light across the frame is allowed for and left out.
 */
import { Matrix, SingularValueDecomposition } from 'ml-matrix';
import { type FrameSize, halfDiagonal } from '../../math/frame-geometry.ts';
import { transmission } from '../../optics/falloff.ts';
import type { Planes } from '../../picture/tile/planes.ts';

export type FlatFit =
  | {
      ok: true;
      /** Green, and red and blue against green: coefficients of r², r⁴, r⁶. */
      terms: number[];
      red: number[];
      blue: number[];
      /** RMS departure of the blocks from the fit, in EV. */
      residual: number;
      /** Falloff in the corners, in EV. */
      corner: number;
    }
  | { ok: false; reason: string };

const BLOCKS = 48;
/** A flat frame fits its polynomial this well, in EV RMS; a photograph does not. */
const MOST_RESIDUAL = 0.03;
/** Light may slope across the frame by this much, corner to corner, in EV. */
const MOST_SLOPE = 0.6;

interface Block {
  x: number;
  y: number;
  values: [number, number, number];
}

/** Medians of blocks: dust and hot pixels do not count. */
function blocksOf({ width, height, r, g, b }: Planes): Block[] {
  const size: FrameSize = { width, height };
  const unit = halfDiagonal(size);
  const step = Math.max(width, height) / BLOCKS;
  const blocks: Block[] = [];
  const median = (plane: Float32Array, left: number, top: number, right: number, bottom: number): number => {
    const some: number[] = [];
    for (let y = top; y < bottom; y += 2)
      for (let x = left; x < right; x += 2) some.push(plane[y * width + x]);
    return some.sort((p, q) => p - q)[some.length >> 1];
  };
  for (let top = 0; top + step <= height + 0.5; top += step) {
    for (let left = 0; left + step <= width + 0.5; left += step) {
      const box = [left, top, Math.min(width, left + step), Math.min(height, top + step)].map(Math.round) as [
        number,
        number,
        number,
        number
      ];
      blocks.push({
        x: ((box[0] + box[2]) / 2 - width / 2) / unit,
        y: ((box[1] + box[3]) / 2 - height / 2) / unit,
        values: [median(r, ...box), median(g, ...box), median(b, ...box)]
      });
    }
  }
  return blocks;
}

/** Fits value = A (1 + v1 r² + v2 r⁴ + v3 r⁶) + B x + C y; returns v, the slope and the residual in EV. */
function fitEven(
  blocks: readonly Block[],
  valueOf: (block: Block) => number
): { terms: number[]; slope: number; residual: number } {
  const rows = blocks.map(({ x, y }) => {
    const r2 = x * x + y * y;
    return [1, r2, r2 * r2, r2 * r2 * r2, x, y];
  });
  const values = Matrix.columnVector(blocks.map(valueOf));
  const solution = new SingularValueDecomposition(new Matrix(rows), { autoTranspose: true })
    .solve(values)
    .to1DArray();
  const [level, v1, v2, v3, bx, by] = solution;
  let squares = 0;
  blocks.forEach((block, i) => {
    const fitted = rows[i].reduce((sum, value, n) => sum + value * solution[n], 0);
    squares += Math.log2(Math.max(1e-6, valueOf(block)) / Math.max(1e-6, fitted)) ** 2;
  });
  return {
    terms: [v1 / level, v2 / level, v3 / level],
    slope: Math.log2((level + Math.hypot(bx, by)) / Math.max(1e-6, level - Math.hypot(bx, by))),
    residual: Math.sqrt(squares / blocks.length)
  };
}

export function fitFlat(planes: Planes): FlatFit {
  const blocks = blocksOf(planes);
  const greens = blocks.map((block) => block.values[1]).sort((a, b) => a - b);
  const brightest = Math.max(...blocks.flatMap((block) => block.values));
  if (brightest > 0.97) {
    return {
      ok: false,
      reason:
        'This frame is clipped: its brightest part says nothing about falloff. Expose it a stop or two less.'
    };
  }
  if (greens[greens.length >> 1] < 0.03) {
    return {
      ok: false,
      reason: 'This frame is too dark to measure falloff from. Expose it so that its middle is a mid-grey.'
    };
  }
  const green = fitEven(blocks, (block) => block.values[1]);
  const redRatio = fitEven(blocks, (block) => block.values[0] / block.values[1]);
  const blueRatio = fitEven(blocks, (block) => block.values[2] / block.values[1]);
  const residual = Math.max(green.residual, redRatio.residual, blueRatio.residual);
  if (residual > MOST_RESIDUAL) {
    return {
      ok: false,
      reason: `This is no flat frame: its brightness departs from a smooth falloff by ${residual.toFixed(2)} EV (at most ${MOST_RESIDUAL} EV is accepted). Photograph an evenly lit, plain surface, out of focus and filling the frame.`
    };
  }
  if (Math.abs(green.slope) > MOST_SLOPE) {
    return {
      ok: false,
      reason: `The light falls off by ${Math.abs(green.slope).toFixed(1)} EV from one side to the other: light the surface evenly.`
    };
  }
  const corner = Math.log2(transmission(green.terms, 1));
  if (corner > 0.3)
    return { ok: false, reason: 'The corners are brighter than the middle: this is no flat frame.' };
  return { ok: true, terms: green.terms, red: redRatio.terms, blue: blueRatio.terms, residual, corner };
}

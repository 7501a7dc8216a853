/**
 * Hills in haze: a skyline so faint that what lies under it looks like the sky. Along it the light falls and turns less blue within a
 * few cells, over many columns side by side; towards a horizon, a sky grows lighter and less blue little by little.
 */
import type { FrameSize } from '../../../math/frame-geometry.ts';
import type { Looks } from './looks.ts';

/** Cells to each side, and rows above and below, that a step is told by, and the rows between the two. */
const BESIDE = 5;
const ROWS = 3;
const BETWEEN = 1;
/** Stops by which light and hue fall at the least. */
const DARKER = 0.03;
const GREYER = 0.04;
/** Share of the height that a skyline may lie above the end of what was found. */
const ABOVE = 0.12;
/** Columns side by side that have to show it, in shares of the width beyond those that one tells, and cells by which it changes from one to the next. */
const LONG = 0.04;
const STEEP = 2;

/** Takes out of what was found, on a grid as fine as the looks or finer, what lies under such a line. */
export function cutFaintSkyline(out: Float32Array, fine: FrameSize, looks: Looks): void {
  const lines = skylineOf(out, fine, looks);
  const [across, down] = [fine.width / looks.width, fine.height / looks.height];
  for (let x = 0; x < fine.width; x++) {
    const line = lines[Math.min(looks.width - 1, Math.floor(x / across))];
    if (line === null) continue;
    // Down to where the sky ends that the line lies in.
    for (
      let y = Math.ceil(line * down), at = y * fine.width + x;
      at < out.length && out[at] > 0;
      at += fine.width
    )
      out[at] = 0;
  }
}

/** The first row below the line in each column; null: there is none. */
function skylineOf(
  out: Float32Array,
  fine: FrameSize,
  { width, height, stops, hue }: Looks
): (number | null)[] {
  const [across, down] = [fine.width / width, fine.height / height];
  const isSky = (x: number, y: number): boolean =>
    out[Math.floor((y + 0.5) * down) * fine.width + Math.floor((x + 0.5) * across)] > 0.5;
  /** Whether all that tells a step was taken for sky: else it is an edge that was seen. */
  const isAllSky = (x: number, y: number): boolean => {
    const [from, to] = [Math.max(0, x - BESIDE), Math.min(width - 1, x + BESIDE)];
    for (const row of [y - ROWS, y, y + BETWEEN + ROWS - 1])
      for (let i = from; i <= to; i++) if (!isSky(i, row)) return false;
    return true;
  };
  const [light, blue] = [meansAcross(stops, width, height), meansAcross(hue, width, height)];
  const falls = (of: Float32Array, x: number, y: number): number => {
    let sum = 0;
    for (let k = 0; k < ROWS; k++) sum += of[(y - 1 - k) * width + x] - of[(y + BETWEEN + k) * width + x];
    return sum / ROWS;
  };
  const found = Array.from({ length: width }, (_, x): number | null => {
    let end = height - ROWS - BETWEEN - 1;
    while (end > 0 && !isSky(x, end)) end--;
    const first = Math.max(ROWS, Math.ceil(end - ABOVE * height));
    // The highest of several: behind hills there are others.
    for (let y = first; y <= end; y++) {
      const [darker, greyer] = [falls(light, x, y), falls(blue, x, y)];
      if (darker < DARKER || greyer < GREYER) continue;
      if (!isAllSky(x, y)) continue;
      // Where it falls the most.
      const next = y + 1 <= end ? falls(light, x, y + 1) : 0;
      if (next <= darker) return y;
    }
    return null;
  });
  return longRuns(found, LONG * width + 2 * BESIDE);
}

/** Means over the cells beside each, along rows. */
function meansAcross(of: Float32Array, width: number, height: number): Float32Array {
  const out = new Float32Array(of.length);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const [from, to] = [Math.max(0, x - BESIDE), Math.min(width - 1, x + BESIDE)];
      let sum = 0;
      for (let i = from; i <= to; i++) sum += of[y * width + i];
      out[y * width + x] = sum / (to - from + 1);
    }
  return out;
}

/** Rows that go on from column to column for long enough; the others none. */
function longRuns(rows: readonly (number | null)[], least: number): (number | null)[] {
  const out: (number | null)[] = rows.map(() => null);
  let begin = 0;
  for (let x = 1; x <= rows.length; x++) {
    const [before, here] = [rows[x - 1], rows[x] ?? null];
    const goesOn = before !== null && here !== null && Math.abs(here - before) <= STEEP;
    if (goesOn) continue;
    if (rows[begin] !== null && x - begin >= least) for (let i = begin; i < x; i++) out[i] = rows[i];
    begin = x;
  }
  return out;
}

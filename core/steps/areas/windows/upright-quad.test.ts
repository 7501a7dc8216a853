import { describe, expect, it } from 'vitest';
import type { Looks } from '../sky/looks.ts';
import { plumbLean } from './plumb-lean.ts';
import { cornersOf, uprightQuad } from './upright-quad.ts';

const size = { width: 240, height: 160 };

/** Cells within a quadrangle that leans to the right by so many cells for each one up, and falls to the right. */
function piece(lean: number, fall: number): Int32Array {
  const cells: number[] = [];
  for (let y = 0; y < size.height; y++)
    for (let x = 0; x < size.width; x++) {
      const across = x - 80 - lean * (140 - y);
      const down = y - 40 - fall * (x - 80);
      if (across >= 0 && across < 60 && down >= 0 && down < 80) cells.push(y * size.width + x);
    }
  return Int32Array.from(cells);
}

describe('an opening', () => {
  it('is upright, as things are at its place', () => {
    const quad = uprightQuad(piece(0, 0), size, () => 0)!;
    const corners = cornersOf(quad).flat();
    [79.5, 39.5, 139.5, 39.5, 139.5, 119.5, 79.5, 119.5].forEach((place, i) =>
      expect(Math.abs(corners[i] - place)).toBeLessThan(1)
    );
    expect(uprightQuad(piece(0.15, 0.2), size, () => -0.15)).not.toBeNull();
  });

  it('is none where it slants otherwise', () => {
    expect(uprightQuad(piece(0.15, 0.2), size, () => 0)).toBeNull();
    expect(uprightQuad(piece(0, 0), size, () => 0.15)).toBeNull();
  });

  it('is none where little of it is filled, or its sides are ragged', () => {
    const cells = piece(0, 0).filter((cell) => {
      const [x, y] = [cell % size.width, Math.floor(cell / size.width)];
      return (x - 110) ** 2 + (y - 80) ** 2 < 900;
    });
    expect(uprightQuad(cells, size, () => 0)).toBeNull();
  });
});

describe('the lean of what is upright', () => {
  it('changes over the width as a tilted camera has it', () => {
    // Stripes that meet far above, as of a camera that looks up.
    const stops = new Float32Array(size.width * size.height);
    for (let y = 0; y < size.height; y++)
      for (let x = 0; x < size.width; x++) {
        const foot = 120 + ((x - 120) * 700) / (540 + y);
        stops[y * size.width + x] = 1.5 * Math.sin(foot / 4);
      }
    const lean = plumbLean({ ...size, stops, hue: new Float32Array(0) } as Looks);
    for (const x of [30, 120, 210]) expect(Math.abs(lean(x) - (x - 120) / 620)).toBeLessThan(0.03);
  });
});

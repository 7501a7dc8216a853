/** What of the picture masks go by: its colours in the cells of a grid, and how unlike they are. */
import { toOklab } from '../../colour/oklab.ts';
import type { Point } from '../../math/frame-geometry.ts';
import { averageLight } from '../../measure/light/average-light.ts';
import { inArena } from '../../picture/kernels/arena.ts';
import { addressOf } from '../../picture/kernels/heap.ts';
import { kernels } from '../../picture/kernels/kernels.ts';
import type { Grid } from '../../picture/tile/grid.ts';
import { type Pictured, keptOfPicture } from './pictured.ts';

/** Light that is added to colours before their ratio is taken. */
export const SPECK = 1e-4;

export interface Guide {
  grid: Grid;
  /** Stops of luminance about white of each cell. */
  stops: Float32Array;
  /** Stops of blue against red. */
  hues: Float32Array;
  /** Light of each cell in the working space. */
  colours: readonly [Float32Array, Float32Array, Float32Array];
  /** Lightness, a and b of each cell in OKLab; reckoned when they are first asked for. */
  labs(): readonly [Float32Array, Float32Array, Float32Array];
  /** How unlike cells are to the one at a place: a distance in OKLab, whose lightness counts in part. */
  unlike(place: Point): (cell: number) => number;
}

/** How much a difference of lightness counts beside one of colour. */
const LIGHTNESS = 0.6;

/** Cells up to which a guide is kept for good; a larger one as long as there is memory to spare. */
const SMALL = 512 * 512;
const small = keptOfPicture<Guide>(1);
const large = keptOfPicture<{ guide: WeakRef<Guide> | null }>(1);

/** What masks of a picture go by on a grid. */
export function guideOf(of: Pictured, grid: Grid): Guide {
  const key = `${grid.width} ${grid.height}`;
  if (grid.width * grid.height <= SMALL) return small(of, key, () => measureGuide(of, grid));
  const held = large(of, key, () => ({ guide: null }));
  const guide = held.guide?.deref() ?? measureGuide(of, grid);
  held.guide = new WeakRef(guide);
  return guide;
}

function measureGuide({ planes, toWorking }: Pictured, grid: Grid): Guide {
  const size = grid.width * grid.height;
  const [r, g, b, stops, hues] = inArena((arena) => {
    const plane = (): Float32Array => arena.float32(size);
    const colours = [plane(), plane(), plane()] as const;
    const [light, hue] = [plane(), plane()];
    averageLight(planes, toWorking, grid, { colours, stops: light });
    kernels().logRatio(addressOf(colours[2]), addressOf(colours[0]), size, SPECK, addressOf(hue));
    return [...colours, light, hue].map((each) => new Float32Array(each));
  });
  const colours = [r, g, b] as const;
  const labAt = (cell: number): readonly [number, number, number] =>
    toOklab([colours[0][cell], colours[1][cell], colours[2][cell]]);
  let known: ReturnType<Guide['labs']> | null = null;
  return {
    grid,
    stops,
    hues,
    colours,
    labs() {
      if (known) return known;
      const planes = [0, 1, 2].map(() => new Float32Array(size));
      for (let i = 0; i < size; i++) labAt(i).forEach((value, c) => (planes[c][i] = value));
      return (known = planes as unknown as ReturnType<Guide['labs']>);
    },
    unlike([x, y]) {
      const column = Math.min(grid.width - 1, Math.max(0, Math.round(x)));
      const row = Math.min(grid.height - 1, Math.max(0, Math.round(y)));
      const [l, a, b] = labAt(row * grid.width + column);
      return (cell) => {
        const [otherL, otherA, otherB] = labAt(cell);
        return Math.hypot(LIGHTNESS * (otherL - l), otherA - a, otherB - b);
      };
    }
  };
}

/**
 * What fine, middle and broad local contrast add to a picture, in stops, measured once on the whole frame as the file has it. Each is
 * what stands out in a band of sizes, of what is near a place's own light: a texture is drawn away from what is about it, and an edge
 * of several stops is left as it is, so that nothing shines beside it (Paris, Hasinoff & Kautz, ACM TOG 30, 2011; about a few lights
 * only, between which is interpolated: Aubry et al., ACM TOG 33, 2014).
 */
import type { FrameSize } from '../../../math/frame-geometry.ts';
import { gaussianWeights } from '../../../math/gaussian-weights.ts';
import type { Matrix3 } from '../../../math/matrix3.ts';
import { quantiles } from '../../../math/quantiles.ts';
import { averageLight } from '../../../measure/light/average-light.ts';
import { drawLines, fitLines, keepLines } from '../../../measure/light/fit-lines.ts';
import { type Arena, inArena } from '../../../picture/kernels/arena.ts';
import { addressOf, takeFloat32, takenTogether } from '../../../picture/kernels/heap.ts';
import { kernels } from '../../../picture/kernels/kernels.ts';
import { gridOf } from '../../../picture/tile/grid.ts';
import type { PlacedPlanes } from '../../../picture/tile/planes.ts';

/** Cells along the longer edge that fine contrast is told in; middle and broad take two by two of them. */
const CELLS = 1536;
/** Pixels along the longer edge of a picture that sizes are told by. */
const SIZES_OF = 2048;

/** Stops from a light up to which what stands out is a detail, and from which on it is an edge. */
const DETAIL = 1.2;
const EDGE = 3.2;
/** Stops between two lights that details are told about. */
const STEP = 1;
/** The darkest and the lightest light that more of a picture than this share lies beyond. */
const SPECK = 5e-4;

/** Part of a band of sizes: a Gaussian blur of this deviation, in pixels of a picture that long, times a weight. */
type Part = readonly [deviation: number, weight: number];

interface Band {
  /** The weights sum to nothing: what is even has no contrast. Solved so that each band doubles its own sizes and adds a tenth at most to its neighbours'. */
  parts: readonly Part[];
  /** How often the grid is halved that it is told on. */
  level: number;
  /** Cells about each one that a light is taken as the same in. */
  even: number;
}

/** Sizes of 2 to 8, 8 to 40 and 40 to 200 pixels. */
const FINE: Band = {
  parts: [
    [0.8, -1.49],
    [1.2, 3.85],
    [4, -3.39],
    [8, 1.03]
  ],
  level: 0,
  even: 2
};
const MIDDLE: Band = {
  parts: [
    [3, -0.23],
    [6, 2.56],
    [20, -3.68],
    [35, 1.35]
  ],
  level: 1,
  even: 3
};
const BROAD: Band = {
  parts: [
    [20, 0.43],
    [40, 1.69],
    [150, -2.12]
  ],
  level: 1,
  even: 8
};
const BANDS = [FINE, MIDDLE, BROAD] as const;

/** Stops between the darkest and the lightest cell about one from which on it lies across an edge in part, and wholly. */
const STEEP = { from: 1.5, to: 2.5 };
/** Variance, in stops squared, of an edge that parts one light from another. */
const EVEN_EPSILON = 0.3;
/** Twice: what is left of a texture the first time is made even the second, and an edge is not. */
const EVEN_TIMES = 2;
/** The same for the lines that a pixel's own light is told by. */
const LINE_FIT = { radius: 1, epsilon: 0.05 };
/** Cells of the coarsest grid that a deviation is still told by. */
const FINEST_BLUR = 1.2;
const LEVELS = 4;
/** Variance of a mean over a cell, and of what is drawn between two, in cells squared. */
const CELL = 1 / 12;
const BETWEEN = 1 / 6;
const LEAST_BLUR = 0.3;

/** What each place of a frame gains by the whole of each local contrast. */
export interface FrameDetails extends FrameSize {
  /** Stops of fine contrast of each cell, and of each two by two, four by four and eight by eight: for pixels as large as these. */
  fine: readonly Float32Array[];
  /** Cells of the lines, across and down: two by two of the others'. */
  across: number;
  down: number;
  /** Slopes of middle and of broad contrast, then their offsets, of each of these: from a pixel's own stops to those it gains. */
  lines: Float32Array;
}

interface Level extends FrameSize {
  /** Pixels, of those that sizes are told by, along a cell. */
  cell: number;
}

/** The grids, each half of the one before. */
function levelsOf(size: FrameSize): Level[] {
  const levels: Level[] = [];
  let { width, height } = gridOf(size, CELLS);
  let cell = SIZES_OF / Math.max(width, height);
  for (let i = 0; i < LEVELS; i++) {
    levels.push({ width, height, cell });
    [width, height, cell] = [Math.ceil(width / 2), Math.ceil(height / 2), cell * 2];
  }
  return levels;
}

/** The coarsest grid that tells a deviation, and the blur that it lacks there to be told on that of its band; in cells. */
function placed(deviation: number, levels: readonly Level[], level: number): { level: number; blur: number } {
  let at = level;
  while (at + 1 < LEVELS && deviation / levels[at + 1].cell >= FINEST_BLUR) at++;
  const own = (deviation / levels[at].cell) ** 2 - CELL - (at > level || level === 0 ? BETWEEN : 0);
  return { level: at, blur: Math.sqrt(Math.max(0, own)) };
}

const planeOf = ({ width, height }: FrameSize, arena: Arena): Float32Array => arena.float32(width * height);

/** Stops with what is less than an edge made even. */
function evened(
  stops: Float32Array,
  { width, height }: FrameSize,
  radius: number,
  arena: Arena
): Float32Array {
  const out = arena.float32(stops.length);
  inArena((own) => {
    const to = addressOf(out);
    out.set(stops);
    for (let time = 0; time < EVEN_TIMES; time++) {
      const lines = fitLines(to, to, { width, height, radius, epsilon: EVEN_EPSILON }, own);
      drawLines(lines, to, stops.length, to);
    }
  });
  return out;
}

interface Blurred {
  level: number;
  weight: number;
  weights: number;
  reach: number;
}

/** Makes one band of the details about a light, which lie on each grid, on the grid of the band. */
function bandMaker(
  { parts, level }: Band,
  levels: readonly Level[],
  arena: Arena
): (details: readonly Float32Array[]) => Float32Array {
  const blurred: Blurred[] = parts.map(([deviation, weight]) => {
    const at = placed(deviation, levels, level);
    const { weights, reach } = gaussianWeights(Math.max(LEAST_BLUR, at.blur), 3);
    return {
      level: at.level,
      weight,
      weights: at.blur < LEAST_BLUR ? 0 : arena.addressOf(weights),
      reach
    };
  });
  const coarsest = Math.max(...blurred.map((each) => each.level));
  const sums = levels.map((each, i) =>
    i >= level && i <= coarsest ? planeOf(each, arena) : new Float32Array(0)
  );
  const copy = planeOf(levels[level], arena);
  const work = arena.float32(copy.length + levels[level].width + 3);
  return (details) => {
    const { addScaled, blurPlane, enlarge } = kernels();
    for (let i = coarsest; i >= level; i--) {
      const { width, height } = levels[i];
      const count = width * height;
      const sum = addressOf(sums[i]);
      if (i === coarsest) sums[i].fill(0);
      else enlarge(addressOf(sums[i + 1]), levels[i + 1].width, levels[i + 1].height, sum, width, height);
      for (const { weight, weights, reach } of blurred.filter((each) => each.level === i)) {
        let plane = addressOf(details[i]);
        if (weights !== 0) {
          copy.set(details[i]);
          plane = addressOf(copy);
          blurPlane(plane, width, height, weights, reach, addressOf(work));
        }
        addScaled(plane, count, weight, sum);
      }
    }
    return sums[level];
  };
}

/** Measures a whole frame; `toWorking` is of its file. The arrays are the caller's to give back. */
export function measureDetails(source: PlacedPlanes, toWorking: Matrix3): FrameDetails {
  const levels = levelsOf(source);
  const [{ width, height }, { width: across, height: down }] = levels;
  const many = width * height;
  return takenTogether((own) => {
    const fine = levels.map((level) => own(takeFloat32(level.width * level.height)).fill(0));
    const lines = own(takeFloat32(4 * across * down));
    inArena((arena) => {
      const stops = levels.map((level) => planeOf(level, arena));
      inArena((passing) => {
        const colours = [0, 1, 2].map(() => passing.float32(many));
        averageLight(source, toWorking, { width, height }, { colours, stops: stops[0] });
      });
      inArena((passing) => {
        // A cell across an edge holds some of both sides, and would be drawn away from either.
        const [work, least, most] = [0, 1, 2].map(() => addressOf(passing.float32(many)));
        const { extremes, partAtEdges } = kernels();
        extremes(addressOf(stops[0]), width, height, 1, 0, work, least);
        extremes(addressOf(stops[0]), width, height, 1, 1, work, most);
        partAtEdges(least, most, many, STEEP.from, STEEP.to, addressOf(stops[0]));
      });
      halveDown(stops, levels);
      const told = quantiles(stops[LEVELS - 1]);
      const lowest = Math.floor(told(SPECK) / STEP) * STEP;
      const highest = Math.max(lowest + STEP, Math.ceil(told(1 - SPECK) / STEP) * STEP);
      const lights = BANDS.map(({ level, even }) => evened(stops[level], levels[level], even, arena));
      const sums = BANDS.map(({ level }, i) => (i === 0 ? fine[0] : planeOf(levels[level], arena).fill(0)));
      const makers = BANDS.map((band) => bandMaker(band, levels, arena));
      const details = levels.map((level) => planeOf(level, arena));
      const { addAtLight, detailsAbout } = kernels();
      for (let light = lowest; light <= highest; light += STEP) {
        detailsAbout(addressOf(stops[0]), many, light, DETAIL, EDGE, addressOf(details[0]));
        halveDown(details, levels);
        BANDS.forEach((_, i) => {
          const [at, made, out] = [lights[i], makers[i](details), sums[i]].map(addressOf);
          addAtLight(at, made, sums[i].length, light, STEP, lowest, highest, out);
        });
      }
      halveDown(fine, levels);
      [sums[1], sums[2]].forEach((sum, place) =>
        inArena((fitting) => {
          const [guide, input] = [stops[1], sum].map(addressOf);
          const fit = fitLines(guide, input, { width: across, height: down, ...LINE_FIT }, fitting);
          keepLines(fit, lines, 4, [place, place + 2]);
        })
      );
    });
    return { width, height, fine, across, down, lines };
  });
}

/** Fills each plane but the first with half of the one before it. */
function halveDown(planes: readonly Float32Array[], levels: readonly Level[]): void {
  for (let i = 1; i < planes.length; i++) {
    const [from, to] = [levels[i - 1], levels[i]];
    kernels().halve(
      addressOf(planes[i - 1]),
      from.width,
      from.height,
      addressOf(planes[i]),
      to.width,
      0,
      to.height
    );
  }
}

/**
 * The broad light of a frame: what tone acts by where it looks about. Measured once, on the whole frame as the file has it,
 * on a grid in field coordinates, so that neither crop nor geometry nor size changes a tone. Each cell holds lines that tell
 * a base from a pixel's own luminance (He, Sun & Tang 2013; fast: He & Sun 2015): edges stay as crisp as the picture is.
 */
import { type Arena, inArena } from '../../picture/kernels/arena.ts';
import { addressOf, giveBack, takeFloat32, takenTogether } from '../../picture/kernels/heap.ts';
import { kernels } from '../../picture/kernels/kernels.ts';
import type { FrameSize } from '../../math/frame-geometry.ts';
import type { Matrix3 } from '../../math/matrix3.ts';
import type { Vector3 } from '../../math/vector3.ts';
import type { FrameLight } from './frame-light.ts';
import { gridOf } from '../../picture/tile/grid.ts';
import type { PlacedPlanes } from '../../picture/tile/planes.ts';
import { FIRST_RENDITION, RENDITION, type Rendition } from '../../settings/rendition.ts';
import { averageLight } from './average-light.ts';
import { type LineFit, type Lines, boxRow, drawLines, fitLines, keepLines } from './fit-lines.ts';
import { measureFirstHaze } from './first-haze.ts';
import { measureHaze } from './measure-haze.ts';

/** Cells along the longer edge. */
const LONG_EDGE = 768;

/** How far a base looks about, in cells, and the variance, in stops squared, from which on a change counts as an edge. */
interface BaseKind {
  radius: number;
  epsilon: number;
  /** Bars up to twice this and one cell wide go with what is about them; 0: they do not. */
  thin: number;
}

/** Variance that the base of middle contrast leaves half of. */
export const MIDDLE_EPSILON = 0.016;

/** What tones go by; then what fine, middle and broad local contrast were told from before the present rendition. */
type Bases = readonly [BaseKind, BaseKind, BaseKind, BaseKind];
const FIRST_BASES: Bases = [
  { radius: 15, epsilon: 0.03, thin: 3 },
  { radius: 2, epsilon: 0.08, thin: 0 },
  { radius: 8, epsilon: 0.08, thin: 0 },
  { radius: 24, epsilon: 0.08, thin: 0 }
];
const BASES: Bases = [
  { radius: 15, epsilon: 0.002, thin: 4 },
  { radius: 2, epsilon: 0.013, thin: 0 },
  { radius: 8, epsilon: MIDDLE_EPSILON, thin: 0 },
  { radius: 24, epsilon: 0.014, thin: 0 }
];

/**
 * Planes without the thin bars in them, dark and light: between closing after opening and opening after closing, by which of them is
 * nearer to what is so many cells about, since what lies between two dark bars is no light one; 0: the mean of both.
 */
function withoutBars(
  plane: number,
  { width, height, thin: radius, about }: FrameSize & { thin: number; about: number },
  arena: Arena
): number {
  const size = width * height;
  const { extremes } = kernels();
  const across = addressOf(arena.float32(size));
  const passes = (order: readonly (0 | 1)[]): Float32Array => {
    const out = arena.float32(size);
    order.forEach((greatest, i) =>
      extremes(i === 0 ? plane : addressOf(out), width, height, radius, greatest, across, addressOf(out))
    );
    return out;
  };
  const one = passes([0, 1, 1, 0]);
  const other = passes([1, 0, 0, 1]);
  if (about === 0) for (let i = 0; i < size; i++) one[i] = (one[i] + other[i]) / 2;
  else {
    const mean = arena.float32(size);
    kernels().boxMean(
      plane,
      width,
      height,
      about,
      addressOf(arena.float32(size + boxRow(width))),
      addressOf(mean)
    );
    for (let i = 0; i < size; i++) {
      const [far, farther] = [(one[i] - mean[i]) ** 2, (other[i] - mean[i]) ** 2];
      const sum = far + farther;
      one[i] = sum < 1e-9 ? one[i] : (one[i] * farther + other[i] * far) / sum;
    }
  }
  return addressOf(one);
}

/** Cells over which what is moved beside bars is evened. */
const SOFT_CORNERS = 5;

/**
 * Lines that tell a base with bars left out, moved so that beside a bar it is what it would be if there were none: a bar takes the slope
 * from all that is near it, and a sky that grows lighter would have a band along every cable.
 */
function besideBars(lines: Lines, input: number, fit: LineFit): Lines {
  const size = fit.width * fit.height;
  const { addScaled, boxMean } = kernels();
  inArena((own) => {
    const [missing, found] = [0, 1].map(() => addressOf(own.float32(size)));
    drawLines(fitLines(input, input, fit, own), input, size, missing);
    drawLines(lines, input, size, found);
    addScaled(found, size, -1, missing);
    // What is left out has the corners of a square, which no light has.
    const across = addressOf(own.float32(size + boxRow(fit.width)));
    for (let time = 0; time < 2; time++)
      boxMean(missing, fit.width, fit.height, SOFT_CORNERS, across, missing);
    addScaled(missing, size, 1, lines.offsets);
  });
  return lines;
}

/** Memory for the light of a picture. */
function takeLight(source: FrameSize): FrameLight {
  const { width, height } = gridOf(source, LONG_EDGE);
  const size = width * height;
  return takenTogether((own) => {
    const plane = (values: number): Float32Array => own(takeFloat32(size * values));
    return {
      width,
      height,
      bases: plane(8),
      haze: plane(2),
      air: [1, 1, 1],
      stops: plane(1),
      colours: [plane(1), plane(1), plane(1)]
    };
  });
}

/** Measures a whole frame; `toWorking` is of its file. The light is the caller's to give back. */
export function measureLight(
  source: PlacedPlanes,
  toWorking: Matrix3,
  rendition: Rendition = RENDITION
): FrameLight {
  const light = takeLight(source);
  try {
    return { ...light, air: measureInto(light, source, toWorking, rendition) };
  } catch (error) {
    giveLightBack(light);
    throw error;
  }
}

/** Fills all planes of a light, and returns the colour of the air. */
function measureInto(
  light: FrameLight,
  source: PlacedPlanes,
  toWorking: Matrix3,
  rendition: Rendition
): Vector3 {
  const { width, height, bases, haze, stops, colours } = light;
  averageLight(source, toWorking, light, light);
  return inArena((arena): Vector3 => {
    const first = rendition === FIRST_RENDITION;
    const present = rendition === RENDITION;
    (first ? FIRST_BASES : BASES).forEach(({ radius, epsilon, thin }, place) => {
      const guide = addressOf(stops);
      const lines = inArena((own) => {
        const input =
          thin === 0 ? guide : withoutBars(guide, { width, height, thin, about: present ? radius : 0 }, own);
        const fit = { width, height, radius, epsilon };
        const found = fitLines(guide, input, fit, arena);
        return thin === 0 || !present ? found : besideBars(found, input, fit);
      });
      keepLines(lines, bases, 8, [place, place + 4]);
    });
    const measure = first ? measureFirstHaze : measureHaze;
    return measure(colours, stops, { width, height }, haze);
  });
}

export const giveLightBack = ({ bases, haze, stops, colours }: FrameLight): void =>
  giveBack(bases, haze, stops, ...colours);

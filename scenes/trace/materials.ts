import { fractalNoise, hash2, valueNoise } from '../noise.ts';

export type Colour = [number, number, number];

/**
 * Reflectance (linear sRGB, 0..1) at a place on a surface, in metres along its sides. `footprint` is the size
 * of a pixel there: detail finer than it fades to its mean, so that nothing shimmers.
 */
export type Albedo = (s: number, t: number, footprint: number) => Colour;

export interface Material {
  albedo: Albedo;
  /** Mean reflectance, for bounced light. */
  mean: Colour;
  /** Share of light mirrored at normal incidence (glass, polished floors); 0 for matt. */
  mirror?: number;
  /** Light given off, in units of the scene's light; what is bounced about comes from this mean. */
  glow?: Colour;
  /** The same at a place, where it is not even. */
  shine?: Albedo;
}

const tint = (c: Colour, k: number): Colour => [c[0] * k, c[1] * k, c[2] * k];
const mix = (a: Colour, b: Colour, t: number): Colour => [
  a[0] + (b[0] - a[0]) * t,
  a[1] + (b[1] - a[1]) * t,
  a[2] + (b[2] - a[2]) * t
];

/** Share of detail of a size that is still visible under a footprint. */
const visible = (detail: number, footprint: number): number =>
  Math.max(0, Math.min(1, 1.6 - (1.2 * footprint) / detail));

/** Share of a joint of width w under a point at distance d from its middle, softened by the footprint. */
const joint = (distance: number, width: number, footprint: number): number => {
  const soft = Math.max(footprint, 0.001);
  return Math.max(0, Math.min(1, (width / 2 - distance) / soft + 0.5)) * Math.min(1, width / soft + 0.25);
};

export function plain(colour: Colour, grain = 0.04, size = 0.6): Material {
  return {
    mean: colour,
    albedo: (s, t, footprint) =>
      tint(colour, 1 + grain * 2 * (fractalNoise(s / size, t / size, footprint > 0.05 ? 2 : 4) - 0.5))
  };
}

/** A chessboard of squares of a size, from 0 upwards along both sides; edges as soft as a pixel. */
export function chessboard(dark: Colour, light: Colour, size: number): Material {
  const half = (d: number, footprint: number): number => {
    // Distance to the nearest edge of squares, as a sign that passes softly through 0.
    const cell = Math.round(d / size);
    const beyond = (d - cell * size) / Math.max(footprint, 1e-6);
    const sign = Math.max(-1, Math.min(1, 2 * beyond));
    return cell & 1 ? -sign : sign;
  };
  return {
    mean: mix(dark, light, 0.5),
    albedo: (s, t, footprint) => mix(dark, light, (1 + half(s, footprint) * half(t, footprint)) / 2)
  };
}

/** Courses of rectangular units with joints: brick, blocks, tiles, paving. */
export function coursed(options: {
  unit: Colour;
  joint: Colour;
  width: number;
  height: number;
  jointWidth: number;
  /** Shift of every second course, in units. */
  bond?: number;
  /** Variation of lightness from unit to unit. */
  vary?: number;
  mirror?: number;
  /** A second unit colour, set chequerwise. */
  chequer?: Colour;
}): Material {
  const { width, height, jointWidth, bond = 0.5, vary = 0.25, chequer } = options;
  const cover = 1 - (1 - jointWidth / width) * (1 - jointWidth / height);
  const meanUnit = chequer ? mix(options.unit, chequer, 0.5) : options.unit;
  const mean = mix(meanUnit, options.joint, cover);
  return {
    mean,
    mirror: options.mirror,
    albedo: (s, t, footprint) => {
      const share = visible(Math.min(width, height), footprint);
      if (share === 0) return mean;
      const row = Math.floor(t / height);
      const shifted = s / width + (row & 1 ? bond : 0);
      const column = Math.floor(shifted);
      const x = (shifted - column) * width;
      const y = t - row * height;
      const unit = chequer && (row + column) & 1 ? chequer : options.unit;
      const value = 1 + vary * (hash2(column, row) - 0.5) + 0.12 * (valueNoise(s * 14, t * 14) - 0.5);
      const warmth = 0.1 * vary * (hash2(row, column + 77) - 0.5);
      let colour: Colour = [unit[0] * (value + warmth), unit[1] * value, unit[2] * (value - warmth)];
      const seam = Math.max(
        joint(Math.min(x, width - x), jointWidth, footprint),
        joint(Math.min(y, height - y), jointWidth, footprint)
      );
      colour = mix(colour, options.joint, seam);
      return share === 1 ? colour : mix(mean, colour, share);
    }
  };
}

export const brick = (unit: Colour, mortar: Colour = [0.42, 0.4, 0.36]): Material =>
  coursed({ unit, joint: mortar, width: 0.225, height: 0.075, jointWidth: 0.01, vary: 0.55 });

export const ashlar = (unit: Colour): Material =>
  coursed({ unit, joint: tint(unit, 0.62), width: 0.9, height: 0.4, jointWidth: 0.008, vary: 0.16 });

/** Boards along s with grain. */
export function boards(colour: Colour, width = 0.14, mirror = 0): Material {
  return {
    mean: colour,
    mirror,
    albedo: (s, t, footprint) => {
      const share = visible(width, footprint);
      const board = Math.floor(t / width);
      const grain = fractalNoise(s * 1.3 + board * 7.7, t * 38, 3) - 0.5;
      const value = 1 + share * (0.35 * grain + 0.3 * (hash2(board, 3) - 0.5));
      const x = t - board * width;
      const seam = share * joint(Math.min(x, width - x), 0.004, footprint);
      return mix(tint(colour, value), tint(colour, 0.3), seam);
    }
  };
}

/** Grass: clumps and blades. */
export function grass(): Material {
  const colour: Colour = [0.1, 0.17, 0.045];
  return {
    mean: colour,
    albedo: (s, t, footprint) => {
      const clumps = fractalNoise(s * 1.2, t * 1.2, 3) - 0.5;
      const blades = visible(0.02, footprint) * (hash2(Math.floor(s * 60), Math.floor(t * 60)) - 0.5);
      const k = 1 + 0.5 * clumps + 0.5 * blades;
      return [colour[0] * k * (1 + 0.3 * clumps), colour[1] * k, colour[2] * k];
    }
  };
}

/** Rows of book spines between shelves `pitch` apart. */
export function books(pitch = 0.36): Material {
  const palette: Colour[] = [
    [0.28, 0.07, 0.05],
    [0.06, 0.11, 0.2],
    [0.07, 0.16, 0.09],
    [0.4, 0.33, 0.2],
    [0.16, 0.08, 0.05],
    [0.45, 0.42, 0.36],
    [0.3, 0.18, 0.07],
    [0.1, 0.1, 0.11]
  ];
  const gap: Colour = [0.02, 0.015, 0.012];
  return {
    mean: [0.16, 0.12, 0.09],
    albedo: (s, t) => {
      const row = Math.floor(t / pitch);
      const y = t - row * pitch;
      const slot = Math.floor(s / 0.3);
      // Each 0.3 m holds seven books of varying width.
      let x = s - slot * 0.3;
      let i = 0;
      for (; i < 6; i++) {
        const w = 0.026 + 0.032 * hash2(slot * 7 + i, row);
        if (x < w) break;
        x -= w;
      }
      const id = slot * 7 + i;
      const tall = pitch * (0.62 + 0.22 * hash2(id, row + 40));
      if (y > tall || x < 0.0025 || hash2(slot, row + 900) > 0.94) return gap;
      const colour = palette[Math.floor(hash2(id, row + 5) * palette.length)];
      const band = y > tall * 0.72 && y < tall * 0.78 ? 1.7 : 1;
      return tint(colour, (0.8 + 0.5 * hash2(id, row + 13)) * band);
    }
  };
}

export const glass: Material = {
  mean: [0.03, 0.035, 0.035],
  mirror: 0.1,
  albedo: () => [0.02, 0.025, 0.026]
};

/** How far a place lies under a curtain, 0..1, of a window with one drawn to each side; `fold` is the light of its folds. */
function curtainAt(s: number, t: number, width: number): { cover: number; fold: number } {
  const side = Math.min(s, width - s) / width;
  const hem = 0.24 + 0.03 * Math.sin(t * 3.1) + 0.02 * Math.sin(t * 7.7);
  const fold = 0.75 + 0.25 * Math.sin(s * 62 + 1.5 * Math.sin(t * 1.7));
  return { cover: Math.max(0, Math.min(1, (hem - side) * 60)), fold };
}

/** A pane by day with a dark room behind it, curtains to its sides and a blind at its top. */
export function curtainedGlass(width: number, height: number): Material {
  const room: Colour = [0.022, 0.024, 0.024];
  const cloth: Colour = [0.2, 0.19, 0.165];
  return {
    mean: mix(room, cloth, 0.4),
    mirror: 0.1,
    albedo: (s, t) => {
      if (t > height * 0.86) return tint([0.26, 0.25, 0.22], 0.94 + 0.06 * Math.sin(t * 190));
      const { cover, fold } = curtainAt(s, t, width);
      return mix(room, tint(cloth, fold), cover);
    }
  };
}

/** A pane at dusk with a lamp lit behind it: brightest about the lamp, softer through the curtains. */
export function litGlass(width: number, height: number, lamp: Colour): Material {
  return {
    mean: [0.02, 0.025, 0.026],
    mirror: 0.1,
    albedo: () => [0.02, 0.025, 0.026],
    glow: tint(lamp, 0.5),
    shine: (s, t) => {
      const near = Math.exp(-(((s / width - 0.6) / 0.35) ** 2) - ((t / height - 0.62) / 0.4) ** 2);
      const { cover, fold } = curtainAt(s, t, width);
      const wall = tint(lamp, 0.28 + 0.72 * near);
      return mix(wall, [wall[0] * 0.5 * fold, wall[1] * 0.42 * fold, wall[2] * 0.36 * fold], cover);
    }
  };
}

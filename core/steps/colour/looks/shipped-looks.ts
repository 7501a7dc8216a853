/** Looks of our own, reckoned on the spot. */
import type { Look } from './look.ts';

const SIZE = 17;

/** Encoded sRGB in and out, 0..1. */
type Grade = (r: number, g: number, b: number) => readonly [number, number, number];

const luma = (r: number, g: number, b: number): number => 0.2126 * r + 0.7152 * g + 0.0722 * b;
const mix = (from: number, to: number, share: number): number => from + (to - from) * share;
/** A gentle S about a half; its ends stay. */
const bent = (v: number, much: number): number => v + much * v * (1 - v) * (2 * v - 1) * 2;

const GRADES: Record<string, Grade> = {
  // Lifted shadows, warm lights, colours a little quieter: rooms on a bright morning.
  'Linen morning': (r, g, b) => {
    const y = luma(r, g, b);
    const [qr, qg, qb] = [r, g, b].map((v) => 0.03 + 0.97 * mix(y, v, 0.88));
    return [qr + 0.02 * y, qg + 0.006 * y, qb - 0.02 * y];
  },
  // More contrast, cool shadows and clear whites: glass and concrete.
  'Blue hour steel': (r, g, b) => {
    const y = luma(r, g, b);
    const [qr, qg, qb] = [r, g, b].map((v) => bent(mix(y, v, 0.94), 0.28));
    return [qr - 0.03 * (1 - y) * y * 4, qg - 0.004 * (1 - y), qb + 0.025 * (1 - y) * y * 4];
  },
  // Nearly without colour, soft at both ends: drawings and models.
  Plaster: (r, g, b) => {
    const y = luma(r, g, b);
    return [r, g, b].map((v) => 0.05 + 0.92 * bent(mix(y, v, 0.25), -0.12)) as [number, number, number];
  }
};

function tabulated(name: string, grade: Grade): Look {
  const values = new Float32Array(3 * SIZE ** 3);
  const last = SIZE - 1;
  for (let b = 0, i = 0; b < SIZE; b++)
    for (let g = 0; g < SIZE; g++)
      for (let r = 0; r < SIZE; r++, i += 3)
        values.set(
          grade(r / last, g / last, b / last).map((v) => Math.min(1, Math.max(0, v))),
          i
        );
  return { name, kind: '3D', size: SIZE, from: [0, 0, 0], to: [1, 1, 1], space: 'srgb', values };
}

/** By what recipes call them. */
export const SHIPPED_LOOKS: Readonly<Record<string, () => Look>> = Object.fromEntries(
  Object.entries(GRADES).map(([name, grade]) => [
    name.toLowerCase().replace(/ /g, '-'),
    () => tabulated(name, grade)
  ])
);

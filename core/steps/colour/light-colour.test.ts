import sharp from 'sharp';
import { beforeAll, describe, expect, it } from 'vitest';
import { SRGB_TO_REC2020 } from '../../colour/primaries.ts';
import { apply } from '../../math/matrix3.ts';
import type { Vector3 } from '../../math/vector3.ts';
import { lightColour, lightColours } from './light-colour.ts';

/** Colours as the light of a frame has them. */
const laidOut = (colours: readonly Float32Array[], width: number): Parameters<typeof lightColour>[0] => ({
  width,
  height: colours[0].length / width,
  stops: Float32Array.from(colours[1], (green) => Math.log2(Math.max(1e-6, green))),
  colours: colours as unknown as Parameters<typeof lightColour>[0]['colours']
});

describe('the colour of the light by itself', () => {
  /** The colours of a picture, and what is told of its light. */
  const of = (colours: readonly Vector3[]): Vector3 =>
    lightColour(
      laidOut(
        [0, 1, 2].map((c) => Float32Array.from(colours, (rgb) => rgb[c])),
        colours.length
      )
    );
  const greys = Array.from({ length: 400 }, (_, i): Vector3 => {
    const light = 0.02 + (0.6 * ((i * 37) % 400)) / 400;
    return [light * 1.3, light, light * 0.75];
  });

  it('is that of greys, whatever the camera was set to', () => {
    const [r, g, b] = of(greys);
    expect(r).toBeCloseTo(1.3, 4);
    expect(g).toBe(1);
    expect(b).toBeCloseTo(0.75, 4);
  });

  it('hardly hears what is far from grey, clipped or black', () => {
    const strong = Array.from({ length: 400 }, (): Vector3 => [0.4, 0.13, 0.06]);
    const clipped = Array.from({ length: 400 }, (): Vector3 => [1.5, 1.2, 0.2]);
    const black = Array.from({ length: 400 }, (): Vector3 => [0.001, 0.003, 0.0001]);
    const [r, , b] = of([...greys, ...strong, ...clipped, ...black]);
    expect(Math.abs(r / 1.3 - 1)).toBeLessThan(0.03);
    expect(Math.abs(b / 0.75 - 1)).toBeLessThan(0.03);
    expect(of([...clipped, ...black])).toEqual([1, 1, 1]);
  });

  it('tells two lights apart, and does not take one wall of a colour for a second', () => {
    const half = (light: number): Vector3[] =>
      Array.from({ length: 300 }, (_, i) => {
        const value = 0.1 + (0.7 * ((i * 37) % 300)) / 300;
        return light === 0 ? [value, value, value * 1.05] : [value * 0.95, value * 0.66, value * 0.34];
      });
    const shuffled = [0, 1].flatMap(half).map((colour, i, all) => all[(i * 7) % all.length]);
    const told = (colours: readonly Vector3[]): ReturnType<typeof lightColours> =>
      lightColours(
        laidOut(
          [0, 1, 2].map((c) => Float32Array.from(colours, (rgb) => rgb[c])),
          colours.length
        )
      );
    const { light, other } = told(shuffled);
    const warm = light[0] > 1.2 ? light : other!;
    const cold = light[0] > 1.2 ? other! : light;
    expect(warm[0]).toBeCloseTo(0.95 / 0.66, 1);
    expect(warm[2]).toBeCloseTo(0.34 / 0.66, 1);
    expect(cold[0]).toBeCloseTo(1, 1);
    expect(told(half(0)).other).toBeNull();
    // What goes evenly from white to the colour of wood is a wall under one light and its reflections.
    const even = Array.from({ length: 600 }, (_, i): Vector3 => {
      const share = ((i * 37) % 600) / 600;
      return [0.6, 0.6 - 0.18 * share, 0.63 - 0.41 * share];
    });
    expect(told(even).other).toBeNull();
    // A dark wall is of a colour, and lights nothing.
    const dark = half(1).map((colour) => colour.map((value) => value * 0.15) as unknown as Vector3);
    expect(told([...half(0), ...dark].map((_, i, all) => all[(i * 7) % all.length])).other).toBeNull();
  });
});

/** Photographs of what the world holds, which come with packages of the system. */
const PHOTOGRAPHS = [
  '/usr/lib/python3/dist-packages/sklearn/datasets/images/china.jpg',
  '/usr/lib/python3/dist-packages/sklearn/datasets/images/flower.jpg',
  ...['Wine_by_Jakkub_Mede', 'Bridge_by_Sander_Klootwijk', 'seeding_by_Clements_Engelhardt'].map(
    (name) => `/usr/share/backgrounds/${name}.jpg`
  ),
  ...['greentock_by_Peter_Nerlich', 'life_by_Aitzol_Berasategi'].map(
    (name) => `/usr/share/backgrounds/${name}.jpg`
  )
];

describe('of real photographs under lights that are known', () => {
  /** What each light makes of the working colours. */
  const LIGHTS: Record<string, Vector3> = {
    lamps: [1.9, 1, 0.38],
    'warm lamps': [1.5, 1, 0.55],
    morning: [1.2, 1, 0.78],
    'as it was': [1, 1, 1],
    cloudy: [0.88, 1, 1.18],
    shade: [0.78, 1, 1.4],
    fluorescent: [1.12, 1, 0.62]
  };
  const linear = (code: number): number =>
    code <= 10.31 ? code / 255 / 12.92 : ((code / 255 + 0.055) / 1.055) ** 2.4;
  let pictures: Float32Array[][] = [];
  const widths: number[] = [];
  beforeAll(async () => {
    pictures = await Promise.all(
      PHOTOGRAPHS.map(async (path, n) => {
        const { data, info } = await sharp(path)
          .resize(384, 384, { fit: 'inside' })
          .removeAlpha()
          .raw()
          .toBuffer({ resolveWithObject: true });
        widths[n] = info.width;
        const planes = [0, 1, 2].map(() => new Float32Array(info.width * info.height));
        for (let i = 0; i < planes[0].length; i++) {
          const rgb = [0, 1, 2].map((c) => 0.9 * linear(data[i * 3 + c])) as Vector3;
          apply(SRGB_TO_REC2020, rgb).forEach((value, c) => (planes[c][i] = Math.max(0, value)));
        }
        return planes;
      })
    );
  });

  for (const [name, light] of Object.entries(LIGHTS))
    it(`leaves five degrees of grey in the mean, and ten at worst: ${name}`, () => {
      const most = Math.max(...light);
      const left = pictures.map((planes, i) => {
        const colours = planes.map((plane, c) => plane.map((value) => (value * light[c]) / most));
        const grey = lightColour(laidOut(colours, widths[i])).map((value, c) => light[c] / value);
        const length = Math.hypot(...grey);
        return (Math.acos((grey[0] + grey[1] + grey[2]) / length / Math.sqrt(3)) * 180) / Math.PI;
      });
      expect(left.reduce((sum, value) => sum + value, 0) / left.length).toBeLessThan(5);
      expect(Math.max(...left)).toBeLessThan(10);
    });
});

/** What is measured of a frame under another sky, against the same frame that had that sky from the start. */
import { describe, expect, it } from 'vitest';
import { halfDiagonal } from '../math/frame-geometry.ts';
import { falloffGains } from '../optics/falloff.ts';
import { sensorToUpright } from '../picture/geometry/projection.ts';
import { giveBack } from '../picture/kernels/heap.ts';
import { packRgb } from '../picture/output/pack-pixels.ts';
import type { PlacedPlanes } from '../picture/tile/planes.ts';
import { NO_RESOURCES } from '../picture/tile/resource.ts';
import type { PartialRecipe } from '../recipe/recipe.ts';
import { askForLaid, laidResource } from '../steps/areas/another-sky/laid-resource.ts';
import { laySky, skyAt } from '../steps/areas/another-sky/lay-sky.ts';
import { skyResource } from '../steps/areas/another-sky/sky-resource.ts';
import { storeSky } from '../steps/areas/another-sky/stored-sky.ts';
import { FROM_SRGB, type Rgb, SIZE, inputsFor, madeFor, paint } from './painted-frame.ts';
import { renderTile } from './render-tile.ts';
import { asksOf } from './stages.ts';

const { width, height } = SIZE;
const unit = halfDiagonal(SIZE);
const half = { x: width / 2 / unit, y: height / 2 / unit };

/** Roofs before the sky, with gables. */
const roofAt = (x: number): number => 190 + 60 * Math.abs(((x / 150) % 2) - 1);
const walls = (x: number, y: number): Rgb => {
  const brick = Math.floor(x / 14) % 2 === Math.floor(y / 8) % 2 ? 0.09 : 0.14;
  return [1.2 * brick, brick, 0.8 * brick];
};
/** The old sky: bright, with a dark bar and a burnt patch that leave ghosts if anything still knows of them. */
const oldSky = (x: number, y: number): Rgb => {
  if (y > 60 && y < 90) return [0.16, 0.17, 0.2];
  return Math.hypot(x - 430, y - 140) < 30 ? [2.4, 2.3, 2.2] : [0.78, 0.8, 0.84];
};

const SKY = { width: 300, height: 200 };
const codes = new Uint16Array(3 * SKY.width * SKY.height).map((_, i) => {
  const [x, y] = [((i - (i % 3)) / 3) % SKY.width, Math.floor(i / 3 / SKY.width)];
  const cloud = 5200 * Math.sin(x / 17) * Math.cos(y / 13);
  return [30000, 36000, 44000][i % 3] + cloud + 60 * y;
});
const bytes = storeSky({ ...SKY, codes });

const outline: [number, number][] = [
  [-half.x * 1.05, -half.y * 1.05],
  [half.x * 1.05, -half.y * 1.05],
  ...Array.from({ length: width + 1 }, (_, i): [number, number] => {
    const x = width - i;
    return [(x - width / 2) / unit, (roofAt(x) - height / 2) / unit];
  })
];
const areas = {
  shapes: [{ id: 's', parts: [{ id: 'o', kind: 'polygon', meets: 'add', points: outline }], radius: 0 }],
  list: [{ id: 'a', shape: 's', sky: { picture: 'x', up: -50, scale: 100, match: 0 } }]
} as unknown as NonNullable<PartialRecipe['areas']>;

function picture(source: PlacedPlanes, recipe: PartialRecipe): Picture {
  const { stages, plan } = inputsFor(recipe);
  const { crop } = plan;
  const view = { left: crop.x, top: crop.y, pixel: 1 / unit };
  const size = { width: Math.floor(crop.width * unit), height: Math.floor(crop.height * unit) };
  const out = new Uint16Array(3 * size.width * size.height);
  const made = madeFor(asksOf(stages), { planes: source, toWorking: FROM_SRGB, bytes });
  const resources = new Map([...made].map(([key, { value }]) => [key, value]));
  renderTile({ source, stages, view: { ...view, ...size }, resources }, packRgb(out, size.width));
  for (const { value, resource } of made.values()) giveBack(...resource.memory(value));
  return { width: size.width, values: Float64Array.from(out, (code) => code / 65535) };
}

interface Picture {
  width: number;
  values: Float64Array;
}

/** Places, by value, that are not within four pixels of where two pictures differ by more than a code of 255. */
function alike({ width, values }: Picture, other: Picture): number[] {
  const differ = new Set<number>();
  values.forEach((value, i) => {
    if (Math.abs(value - other.values[i]) > 1 / 255) differ.add(Math.floor(i / 3));
  });
  const near = new Set<number>();
  for (const i of differ)
    for (let dy = -4; dy <= 4; dy++) for (let dx = -4; dx <= 4; dx++) near.add(i + dy * width + dx);
  return [...values.keys()].filter((i) => !near.has(Math.floor(i / 3)));
}

/** Differences of two pictures at some places, in codes of 255. */
function apart(one: Picture, other: Picture, places: number[]): { most: number; mean: number } {
  const differences = places.map((i) => 255 * Math.abs(one.values[i] - other.values[i]));
  return {
    most: differences.reduce((a, b) => Math.max(a, b)),
    mean: differences.reduce((a, b) => a + b) / places.length
  };
}

/** A frame whose own sky is the one that the other is given. */
function taken(recipe: PartialRecipe): PlacedPlanes {
  const { plan } = inputsFor(recipe);
  const sky = skyResource.make({ bytes } as never, { id: 'x' });
  const settings = { picture: 'x', up: -50, across: 0, scale: 100, turn: 0, match: 0, mirrored: false };
  const laid = laySky(sky, settings, half, 1 / unit);
  const [light, gains] = [new Float64Array(3), new Float64Array(3).fill(1)];
  const toFile = [1.6605, -0.5876, -0.0728, -0.1246, 1.1329, -0.0083, -0.0182, -0.1006, 1.1187];
  const planes = paint((x, y) => {
    if (y >= roofAt(x)) return walls(x, y);
    const at = sensorToUpright([x, y], plan.projection)!;
    skyAt(laid, at[0], at[1], light);
    if (plan.falloff)
      falloffGains(plan.falloff, (x - width / 2) / unit, (y - height / 2) / unit, half.x, half.y, gains);
    const file = (row: number): number =>
      (toFile[row] * light[0] + toFile[row + 1] * light[1] + toFile[row + 2] * light[2]) / gains[row / 3];
    return [file(0), file(3), file(6)];
  });
  giveBack(...skyResource.memory(sky));
  return planes;
}

const before = paint((x, y) => (y < roofAt(x) ? oldSky(x, y) : walls(x, y)));

describe('a frame under another sky', () => {
  it('that cannot be had is measured as it is', () => {
    const { stages, plan } = inputsFor({ areas });
    const ask = askForLaid(stages.areaSky, plan.projection)!;
    const from = {
      planes: before,
      picture: null,
      toWorking: FROM_SRGB,
      bytes: null,
      resources: NO_RESOURCES
    };
    const laid = laidResource.make(from, ask.data);
    const apart = laid.g.reduce((most, value, i) => Math.max(most, Math.abs(value - before.g[i])), 0);
    expect(apart).toBeLessThan(1e-5);
    giveBack(...laidResource.memory(laid));
  });

  it.each([
    ['haze cleared', { tone: { haze: 60 } }],
    ['haze laid in', { tone: { haze: -60 } }],
    ['highlights', { tone: { highlights: -80, shadows: 60 } }],
    ['local contrast', { tone: { fine: 60, middle: 80, broad: 80 } }],
    ['glow', { finish: { glow: 100, glowReach: 60, glowFrom: -2 } }],
    ['an area over it', { area: { tone: { highlights: -80, middle: 80, haze: 40 } } }],
    ['a turned and dimmed frame', { tone: { highlights: -80, haze: 50 }, lens: true }]
  ] as [string, { area?: object; lens?: boolean } & PartialRecipe][])(
    '%s: as if it had been taken so',
    (_, given) => {
      const { area, lens, ...settings } = given;
      const over = area ? [{ id: 'b', shape: 's', settings: area }] : [];
      const geometry = lens
        ? { lens: { corner: 1 }, lines: { roll: 2, pitch: -4 }, crop: { ratio: 'free' } }
        : {};
      const recipe = { ...(settings as PartialRecipe), ...geometry } as PartialRecipe;
      const list = [...areas.list!, ...over] as never;
      const laid = picture(before, { ...recipe, areas: { ...areas, list } } as PartialRecipe);
      const source = taken(recipe);
      const truth = picture(source, { ...recipe, areas: { ...areas, list: over } } as never);
      const unset = picture(source, { ...geometry });
      const places = alike(picture(before, { ...geometry, areas }), unset);
      expect(places.length / unset.values.length).toBeGreaterThan(0.9);
      const worked = apart(truth, unset, places);
      expect(worked.mean).toBeGreaterThan(0.4);
      const off = apart(laid, truth, places);
      expect(off.mean).toBeLessThan(0.03 * worked.mean);
      expect(off.most).toBeLessThan(0.3 * worked.most);
    }
  );
});

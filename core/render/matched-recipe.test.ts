/** Three frames of one room, from three places, at other exposures and white balances: their walls come out alike. */
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { type CameraSetup, projectPoint, setupLens } from '../../scenes/camera/capture.ts';
import { WHITE_RESPONSE, XYZ_TO_CAMERA } from '../../scenes/camera/colour.ts';
import { LENSES, SENSOR_HALF_DIAGONAL } from '../../scenes/camera/lenses.ts';
import type { Colour } from '../../scenes/trace/materials.ts';
import { radiance } from '../../scenes/trace/shade.ts';
import type { Vector } from '../../scenes/trace/scene.ts';
import { ciede2000 } from '../colour/ciede2000.ts';
import { type CommonLight, commonLight } from '../measure/common/common-light.ts';
import { type Places, findPlaces } from '../measure/common/places.ts';
import type { Vector3 } from '../math/vector3.ts';
import type { FrameFacts } from '../optics/frame-facts.ts';
import { packRgb } from '../picture/output/pack-pixels.ts';
import { foldHighlight, unfoldHighlight } from '../picture/tile/highlights.ts';
import { type PlacedPlanes, givePlanesBack } from '../picture/tile/planes.ts';
import { type PartialRecipe, completeRecipe } from '../recipe/recipe.ts';
import { type DemoShot, demoShot, developShot } from './demo-frame.oracle.ts';
import { matchedRecipe } from './matched-recipe.ts';
import { FACTS, wholeView } from './painted-frame.ts';
import { renderInputs } from './render-inputs.ts';
import { renderTile } from './render-tile.ts';

interface Taken {
  shot: DemoShot;
  planes: PlacedPlanes;
  facts: FrameFacts;
  places: Places;
}

/** Takes a frame; `balance`: what its camera's white balance made of red, green and blue besides. */
function take(shot: DemoShot, balance: Vector3): Taken {
  const planes = developShot(shot);
  [planes.r, planes.g, planes.b].forEach((plane, c) =>
    plane.forEach((value, i) => (plane[i] = foldHighlight(unfoldHighlight(value) * balance[c])))
  );
  const neutral = WHITE_RESPONSE.map((value, c) => value / balance[c]) as Vector3;
  const facts: FrameFacts = {
    ...FACTS,
    size: shot.setup.size,
    focalLength: shot.setup.focalLength,
    sensorHalfDiagonal: SENSOR_HALF_DIAGONAL,
    white: {
      neutral: neutral.map((value) => value / neutral[1]) as Vector3,
      matrices: [{ kelvin: 6504, xyzToCamera: XYZ_TO_CAMERA }],
      fromFile: true
    }
  };
  const falloff = {
    shading: setupLens(shot.setup).shading,
    amount: 1,
    corner: 0,
    power: 1,
    centre: [0, 0] as const
  };
  return { shot, planes, facts, places: findPlaces(planes, falloff, shot.setup.size) };
}

/** CIELAB (D65) of the picture about places of the sensor, by its own recipe. */
function coloursAt({ shot, planes, facts }: Taken, recipe: PartialRecipe, at: [number, number][]): Vector3[] {
  const { size, lens } = shot.setup;
  const still = completeRecipe({ ...recipe, lens: { distortion: 0, lateral: 0 } } as never);
  const { stages } = renderInputs(still, facts, { auto: lens.profile, known: [] });
  const codes = new Uint16Array(size.width * size.height * 3);
  renderTile({ source: planes, stages, view: wholeView(size) }, packRgb(codes, size.width));
  return at.map(([x, y]) => {
    const sum = [0, 0, 0];
    for (let j = -3; j <= 3; j++)
      for (let i = -3; i <= 3; i++)
        for (let c = 0; c < 3; c++)
          sum[c] += codes[((Math.floor(y) + j) * size.width + Math.floor(x) + i) * 3 + c] / 65535 / 49;
    return labOf(sum as Vector3);
  });
}

/** IEC 61966-2-1, CIE 15. */
function labOf(rgb: Vector3): Vector3 {
  const [r, g, b] = rgb.map((v) => (v <= 0.04045 ? v / 12.92 : ((v + 0.055) / 1.055) ** 2.4));
  const xyz = [
    (0.4124 * r + 0.3576 * g + 0.1805 * b) / 0.9505,
    0.2126 * r + 0.7152 * g + 0.0722 * b,
    (0.0193 * r + 0.1192 * g + 0.9505 * b) / 1.089
  ].map((v) => (v > 216 / 24389 ? Math.cbrt(v) : ((24389 / 27) * v + 16) / 116));
  return [116 * xyz[1] - 16, 500 * (xyz[0] - xyz[1]), 200 * (xyz[1] - xyz[2])];
}

/** Walls and ceiling of the reading room, above its shelves. */
const WALLS: Vector[] = [3.5, 4, 4.5].flatMap((y) => [
  ...[-2, 0, 2, 3.5].map((x): Vector => [x, y, 13]),
  ...[6, 8, 10, 12].map((z): Vector => [4.3, y, z])
]);

/** Places on the pictures of both of what both see. */
function seenByBoth(one: DemoShot, other: DemoShot): [number, number][][] {
  const colour: Colour = [0, 0, 0];
  const sees = ({ lit, setup }: DemoShot, point: Vector): { at: [number, number]; quad: number } | null => {
    const at = projectPoint(point, setup);
    const { width, height } = setup.size;
    if (!at || at[0] < 8 || at[1] < 8 || at[0] > width - 8 || at[1] > height - 8) return null;
    const way = point.map((value, i) => value - setup.position[i]);
    const length = Math.hypot(...way);
    const [dx, dy, dz] = way.map((value) => value / length);
    const quad = radiance(lit, ...setup.position, dx, dy, dz, 1e-3, colour);
    return { at: at as [number, number], quad };
  };
  const both = WALLS.map((point) => [sees(one, point), sees(other, point)]).filter(
    ([a, b]) => a && b && a.quad === b.quad
  );
  return [0, 1].map((i) => both.map((each) => each[i]!.at));
}

const difference = (one: Vector3[], other: Vector3[]): number[] =>
  one.map((lab, i) => ciede2000(lab, other[i]));

describe('frames of one room', () => {
  const taken: Taken[] = [];
  beforeAll(() => {
    const first = demoShot('SML_0121', 900);
    const second = { lit: first.lit, setup: demoShot('SML_0124', 900).setup };
    const third: CameraSetup = {
      ...first.setup,
      ...{ position: [-0.6, 1.6, 1.2], angles: { roll: 0, pitch: 2, yaw: 14 } },
      ...{ lens: LENSES.zoom, focalLength: 20, compensation: 0.1, seed: 9 }
    };
    taken.push(
      take(first, [1, 1, 1]),
      take(second, [1.25, 1, 0.7]),
      take({ lit: first.lit, setup: third }, [0.8, 1, 1.3])
    );
  });
  afterAll(() => taken.forEach(({ planes }) => givePlanesBack(planes)));

  const REFERENCE: PartialRecipe = {
    tone: { exposure: 0.4, contrast: 10 },
    colour: { kelvin: 5600, kelvinTint: 4 }
  } as never;

  it.each([1, 2])('come out as the first does: frame %d', (i) => {
    const [like, frame] = [taken[0], taken[i]];
    const common = commonLight(like.places, frame.places)!;
    const own = { tone: { contrast: 10 } } as PartialRecipe;
    const matched = matchedRecipe(
      { recipe: own, facts: frame.facts },
      { recipe: REFERENCE, facts: like.facts },
      common
    );
    expect(matched.ok).toBe(true);
    const { recipe } = matched as { recipe: PartialRecipe };
    const [there, here] = seenByBoth(like.shot, frame.shot);
    expect(there.length).toBeGreaterThan(3);
    const wanted = coloursAt(like, REFERENCE, there);
    const before = difference(wanted, coloursAt(frame, own, here));
    const after = difference(wanted, coloursAt(frame, recipe, here));
    const middle = (all: number[]): number => [...all].sort((p, q) => p - q)[all.length >> 1];
    expect(middle(before)).toBeGreaterThan(6);
    expect(middle(after)).toBeLessThan(1.2);
    expect(Math.max(...after)).toBeLessThan(3);
    // Nothing else of its recipe is touched.
    expect(completeRecipe(recipe).tone.contrast).toBe(10);
  });

  it('are told from those of another', () => {
    const kitchen = take(demoShot('CPR_0011', 600), [1, 1, 1]);
    for (const { places } of taken) expect(commonLight(places, kitchen.places)).toBeNull();
    givePlanesBack(kitchen.planes);
  });

  it('are not matched beyond what settings reach, nor to one of another kind', () => {
    const [{ facts }] = taken;
    const common = (stops: Vector3): CommonLight => ({ stops, agree: 100 });
    const matched = (stops: Vector3, like: Partial<FrameFacts> = {}, recipe: PartialRecipe = {}) =>
      matchedRecipe({ recipe: {}, facts }, { recipe, facts: { ...facts, ...like } }, common(stops));
    expect(matched([0, 0, 0])).toMatchObject({ ok: true });
    const { said } = matched([-6, -6, -6]);
    expect(said).toContain('6.0 EV');
    expect(matched([1, -2, 1]).said).toContain('colour');
    expect(matched([0, 0, 0], { rendering: 'display' }).said).toContain('raw');
    // What a step that is switched off holds is not what its frame looks like.
    const off = { tone: { enabled: false, exposure: 2 } } as PartialRecipe;
    const { recipe } = matched([0, 0, 0], {}, off) as { recipe: PartialRecipe };
    expect(Math.abs(completeRecipe(recipe).tone.exposure)).toBeLessThan(0.02);
  });
});

/** The roof terrace of Saltmarsh Library: decking and planters behind a railing, the town below, hills in the haze. */
import { boards, brick, coursed, grass, plain } from '../trace/materials.ts';
import { type Scene, addBox, addQuad, emptyScene, normalise } from '../trace/scene.ts';
import { seededRandom } from '../../core/math/random.ts';
import { fractalNoise } from '../noise.ts';
import { DARK_METAL, DAYLIGHT, OAK, STONE, WHITE_PAINT, addPlanting, addTable, addWindow } from './parts.ts';

/** Metres of the terrace above the town. */
const UP = 15;
const FRONT = 7;
const HILLS = 2600;
/** Houses farther than this have no windows. */
const WINDOWS = 260;

/** A house of the town; far from the terrace its windows are too small to be seen. */
function addHouse(scene: Scene, x: number, z: number, random: () => number): void {
  const [w, d, h] = [6 + 7 * random(), 7 + 5 * random(), 4.5 + 5 * random()];
  const shade = 0.42 + 0.3 * random();
  const walls = plain([shade, shade * (0.88 + 0.1 * random()), shade * (0.72 + 0.16 * random())], 0.08, 2);
  const red = random();
  const roof = plain([0.16 + 0.12 * red, 0.12, 0.11 - 0.03 * red], 0.2, 1);
  const floor = -UP;
  addBox(scene, [x, floor, z], [x + w, floor + h, z + d], walls, { back: null, bottom: null, top: null }, 3);
  const rise = 1.8 + 1.6 * random();
  const texels = { texels: 2 };
  addQuad(
    scene,
    [x - 0.3, floor + h - 0.1, z - 0.3],
    [w + 0.6, 0, 0],
    [0, rise, d / 2 + 0.3],
    [0, 1, -0.5],
    roof,
    texels
  );
  addQuad(
    scene,
    [x - 0.3, floor + h - 0.1, z + d + 0.3],
    [w + 0.6, 0, 0],
    [0, rise, -d / 2 - 0.3],
    [0, 1, 0.5],
    roof,
    texels
  );
  // Gables as two steps: far away, under their roofs, no more is seen of them.
  for (const [inset, up] of [
    [d * 0.12, rise * 0.5],
    [d * 0.3, rise * 0.85]
  ])
    addBox(
      scene,
      [x + 0.1, floor + h, z + inset],
      [x + w - 0.1, floor + h + up, z + d - inset],
      walls,
      {
        bottom: null
      },
      1
    );
  if (random() < 0.7)
    addBox(
      scene,
      [x + w * 0.7, floor + h + rise * 0.4, z + d / 2 - 0.4],
      [x + w * 0.7 + 0.8, floor + h + rise + 1.2, z + d / 2 + 0.4],
      plain([0.3, 0.17, 0.12], 0.2)
    );
  if (z > WINDOWS) return;
  const dark = plain([0.05, 0.055, 0.065], 0.1);
  for (let at = 1; at + 1.1 < w; at += 2.2)
    for (let y = 1; y + 1.4 < h; y += 2.6)
      addQuad(scene, [x + at, floor + y, z - 0.02], [1, 0, 0], [0, 1.3, 0], [0, 0, -1], dark, texels);
}

/** Crowns of trees between the houses: far away, a handful of large leaves is a tree. */
function addGrove(scene: Scene, x: number, z: number, random: () => number): void {
  const size = 5 + 4 * random();
  const green = plain([0.055, 0.1, 0.035], 0.3, 0.8);
  for (let i = 0; i < 34; i++) {
    const [a, up, r] = [random() * 2 * Math.PI, random(), size * 0.4 * Math.sqrt(random())];
    const side = size * (0.12 + 0.12 * random());
    const u = normalise([Math.cos(a * 3), 0, Math.sin(a * 3)]);
    addQuad(
      scene,
      [x + size / 2 + r * Math.cos(a), -UP + size * (0.3 + 0.7 * up), z + size / 2 + r * Math.sin(a)],
      [u[0] * side, 0, u[2] * side],
      [0, side, 0],
      [-u[2], 0.4, u[0]],
      green,
      { texels: 1 }
    );
  }
}

export function roofTerrace(): Scene {
  const light = {
    ...DAYLIGHT,
    sun: normalise([0.62, 0.5, -0.45]),
    cloud: 0.2,
    zenith: [0.28, 0.42, 0.7] as [number, number, number],
    air: { perMetre: 0.0006, colour: [0.66, 0.74, 0.84] as [number, number, number] }
  };
  const scene = emptyScene(light, { bounces: 1, texel: 0.5, rays: 40 });
  const random = seededRandom(41);
  const decking = boards([0.33, 0.27, 0.2], 0.14);
  const walls = brick([0.36, 0.135, 0.08], [0.4, 0.36, 0.31]);
  const zinc = coursed({
    unit: [0.3, 0.31, 0.33],
    joint: [0.16, 0.165, 0.175],
    width: 0.6,
    height: 6,
    jointWidth: 0.02,
    vary: 0.08
  });
  const [x0, x1] = [-7.5, 7.5];
  addQuad(scene, [x0, 0, -7], [0, 0, FRONT + 7], [x1 - x0, 0, 0], [0, 1, 0], decking);
  // Kerb, railing and its posts at the front and to the right.
  addBox(scene, [x0, 0, FRONT], [x1, 0.16, FRONT + 0.3], STONE);
  addBox(scene, [x1, 0, -7], [x1 + 0.3, 0.16, FRONT + 0.3], STONE);
  for (let x = x0; x <= x1 + 0.01; x += 1.5) {
    addBox(scene, [x - 0.025, 0.16, FRONT + 0.1], [x + 0.025, 1.1, FRONT + 0.15], DARK_METAL);
    scene.edges.push({ kind: 'plumb', a: [x - 0.025, 0.2, FRONT + 0.1], b: [x - 0.025, 1.05, FRONT + 0.1] });
  }
  for (let z = -6; z < FRONT; z += 1.5)
    addBox(scene, [x1 + 0.1, 0.16, z - 0.025], [x1 + 0.15, 1.1, z + 0.025], DARK_METAL);
  for (const y of [0.35, 0.6, 0.85]) {
    addBox(scene, [x0, y, FRONT + 0.12], [x1 + 0.14, y + 0.012, FRONT + 0.132], DARK_METAL);
    addBox(scene, [x1 + 0.12, y, -7], [x1 + 0.132, y + 0.012, FRONT + 0.13], DARK_METAL);
  }
  addBox(scene, [x0, 1.08, FRONT + 0.08], [x1 + 0.2, 1.13, FRONT + 0.18], OAK);
  addBox(scene, [x1 + 0.08, 1.08, -7], [x1 + 0.18, 1.13, FRONT + 0.18], OAK);
  scene.edges.push({ kind: 'level', a: [x0 + 0.2, 1.13, FRONT + 0.08], b: [x1 - 0.2, 1.13, FRONT + 0.08] });
  // The stair house to the left, with a door and a window, under a zinc roof.
  addBox(scene, [x0, 0, 1.2], [x0 + 3.4, 2.9, FRONT - 0.2], walls, { bottom: null });
  addBox(scene, [x0 - 0.2, 2.9, 1], [x0 + 3.6, 3.1, FRONT], zinc);
  addBox(scene, [x0 + 0.5, 0, 1.12], [x0 + 1.5, 2.15, 1.2], WHITE_PAINT);
  addBox(scene, [x0 + 0.58, 0.05, 1.08], [x0 + 1.42, 2.07, 1.12], plain([0.05, 0.11, 0.1], 0.05));
  addWindow(scene, [x0 + 2, 0.95, 1.12], 1.1, 1.2, { bars: 1, rails: 1 });
  for (const x of [x0 + 0.5, x0 + 1.5, x0 + 3.4])
    scene.edges.push({
      kind: 'plumb',
      a: [x, 0.1, x > x0 + 3 ? 1.2 : 1.12],
      b: [x, 2.1, x > x0 + 3 ? 1.2 : 1.12]
    });
  // Planters, a table and benches.
  const trough = plain([0.3, 0.31, 0.32], 0.05);
  for (const [a, b] of [
    [-3.6, -1.2],
    [1.2, 3.6]
  ]) {
    addBox(scene, [a, 0, FRONT - 0.7], [b, 0.55, FRONT - 0.15], trough, {
      top: plain([0.09, 0.07, 0.05], 0.3)
    });
    addPlanting(scene, [a + 0.05, 0.55, FRONT - 0.66], [b - 0.05, 1.05, FRONT - 0.2], 50 + a, 420, [
      [0.55, 0.5, 0.55],
      [0.4, 0.2, 0.5]
    ]);
  }
  addTable(scene, [2.3, 0, 3.4], [2.2, 0.75, 0.95], OAK, DARK_METAL);
  for (const z of [2.85, 4.55]) addTable(scene, [2.4, 0, z], [2, 0.45, 0.36], OAK, DARK_METAL);
  // The town and its trees, farther and farther.
  addQuad(scene, [-3500, -UP, -200], [7000, 0, 0], [0, 0, 4000], [0, 1, 0], grass(), { texels: 2 });
  for (let row = 0; row < 11; row++) {
    const z = 26 + row * 16 * 1.22 ** row;
    const count = 9 + row * 3;
    for (let i = 0; i < count; i++) {
      const x = ((i + 0.15 + 0.5 * random()) / count - 0.5) * (60 + z * 1.9);
      if (random() < 0.72) addHouse(scene, x, z + 8 * random(), random);
      else addGrove(scene, x, z + 8 * random(), random);
    }
  }
  // A tower in the middle distance.
  const pale = plain([0.5, 0.46, 0.38], 0.08, 2);
  addBox(scene, [38, -UP, 210], [46, 18, 218], pale, { bottom: null });
  for (let i = 0; i < 8; i++) {
    const inset = i * 0.5;
    addBox(
      scene,
      [38 + inset, 18 + i * 1.5, 210 + inset],
      [46 - inset, 19.5 + i * 1.5, 218 - inset],
      plain([0.22, 0.24, 0.25], 0.1),
      { bottom: null }
    );
  }
  // Hills: two ranges of narrow slices, the farther one higher.
  for (const [z, height, seed, width] of [
    [HILLS, 120, 3, 7],
    [HILLS * 1.9, 330, 11, 13]
  ]) {
    const green = plain([0.06, 0.085, 0.045], 0.3, 60);
    for (let x = -z; x < z; x += width) {
      const up = height * (0.3 + 0.9 * fractalNoise(x / (z * 0.28) + seed, seed, 5));
      addQuad(scene, [x, -UP, z], [width, 0, 0], [0, up, 0], [0, 0.3, -1], green, { texels: 1, s: x });
    }
  }
  return scene;
}

/** Parts that several buildings share: windows, doors, ground, furniture. */
import { seededRandom } from '../../core/math/random.ts';
import { type Material, boards, coursed, glass, grass, plain } from '../trace/materials.ts';
import { type Light, type Scene, type Vector, addBox, addQuad, normalise } from '../trace/scene.ts';
import { addTree } from './tree.ts';

export const DAYLIGHT: Light = {
  sun: normalise([-0.55, 0.62, -0.6]),
  sunColour: [2.9, 2.62, 2.25],
  zenith: [0.2, 0.36, 0.72],
  horizon: [0.72, 0.82, 0.95],
  cloud: 0.35
};

export const WHITE_PAINT = plain([0.78, 0.77, 0.74], 0.02);
export const STONE = plain([0.56, 0.52, 0.44], 0.12, 0.3);
export const DARK_METAL = plain([0.035, 0.038, 0.042], 0.05);
export const OAK = boards([0.36, 0.22, 0.11], 0.12);
export const PAVING = coursed({
  unit: [0.36, 0.35, 0.33],
  joint: [0.17, 0.165, 0.15],
  width: 0.9,
  height: 0.6,
  jointWidth: 0.012,
  vary: 0.2
});
export const ASPHALT = plain([0.085, 0.087, 0.09], 0.22, 0.05);

/** A glazed window in the plane z = const, facing -z: frame, bars and panes, with its corners as true edges. */
export function addWindow(
  scene: Scene,
  [x, y, z]: Vector,
  width: number,
  height: number,
  options: {
    bars?: number;
    rails?: number;
    frame?: Material;
    glazed?: boolean;
    thickness?: number;
    pane?: Material;
  } = {}
): void {
  const { bars = 1, rails = 2, frame = WHITE_PAINT, glazed = true, thickness = 0.06, pane = glass } = options;
  const t = thickness;
  if (glazed) addQuad(scene, [x, y, z + 0.04], [width, 0, 0], [0, height, 0], [0, 0, -1], pane);
  addBox(scene, [x, y, z], [x + t, y + height, z + 0.05], frame);
  addBox(scene, [x + width - t, y, z], [x + width, y + height, z + 0.05], frame);
  addBox(scene, [x + t, y, z], [x + width - t, y + t, z + 0.05], frame);
  addBox(scene, [x + t, y + height - t, z], [x + width - t, y + height, z + 0.05], frame);
  const b = t / 2.4;
  for (let i = 1; i <= bars; i++) {
    const c = x + (width * i) / (bars + 1);
    addBox(scene, [c - b, y + t, z + 0.005], [c + b, y + height - t, z + 0.045], frame);
  }
  for (let i = 1; i <= rails; i++) {
    const c = y + (height * i) / (rails + 1);
    const h = rails % 2 === 1 && i === (rails + 1) / 2 ? b * 1.8 : b;
    addBox(scene, [x + t, c - h, z + 0.008], [x + width - t, c + h, z + 0.042], frame);
  }
}

/** Street, kerb, pavement and lawn before a building whose front stands at z = 0. */
export function addStreet(scene: Scene, pavementDepth: number): void {
  const edge = -pavementDepth;
  addQuad(scene, [-70, 0, edge], [140, 0, 0], [0, 0, pavementDepth + 60], [0, 1, 0], PAVING, {
    s: -70,
    t: edge
  });
  addBox(scene, [-70, -0.12, edge - 0.15], [70, 0.0, edge], plain([0.45, 0.44, 0.42], 0.1));
  addQuad(scene, [-70, -0.12, -60], [140, 0, 0], [0, 0, 60 + edge - 0.15], [0, 1, 0], ASPHALT);
  addQuad(scene, [-400, -0.14, -60], [800, 0, 0], [0, 0, 500], [0, 1, 0], grass(), { s: -400, t: -60 });
}

/** A table: top, four legs. */
export function addTable(
  scene: Scene,
  [x, y, z]: Vector,
  [w, h, d]: Vector,
  top: Material,
  legs: Material = top
): void {
  addBox(scene, [x, y + h - 0.04, z], [x + w, y + h, z + d], top);
  const l = 0.06;
  for (const [lx, lz] of [
    [x + 0.05, z + 0.05],
    [x + w - 0.05 - l, z + 0.05],
    [x + 0.05, z + d - 0.05 - l],
    [x + w - 0.05 - l, z + d - 0.05 - l]
  ]) {
    addBox(scene, [lx, y, lz], [lx + l, y + h - 0.04, lz + l], legs);
  }
}

/** The triangle of a gable in the plane x = const, between two depths, as strips that stay below the roof slope. */
export function addGable(
  scene: Scene,
  x: number,
  [z0, z1]: [number, number],
  eaves: number,
  rise: number,
  material: Material
): void {
  const strips = 24;
  const half = (z1 - z0) / 2;
  for (let i = 0; i < strips; i++) {
    const inset = (half * (i + 1)) / strips;
    addBox(
      scene,
      [x, eaves + (rise * i) / strips, z0 + inset],
      [x + 0.2, eaves + (rise * (i + 1)) / strips, z1 - inset],
      material
    );
  }
}

/** A plain chair facing +z or -z. */
export function addChair(
  scene: Scene,
  [x, y, z]: Vector,
  facing: 1 | -1,
  material: Material,
  seat: Material = material
): void {
  const w = 0.44;
  const l = 0.035;
  addBox(scene, [x, y + 0.43, z], [x + w, y + 0.47, z + w], seat);
  for (const lx of [x, x + w - l]) {
    for (const lz of [z, z + w - l]) addBox(scene, [lx, y, lz], [lx + l, y + 0.43, lz + l], material);
  }
  const back = facing > 0 ? z : z + w - l;
  for (const lx of [x, x + w - l])
    addBox(scene, [lx, y + 0.47, back], [lx + l, y + 0.92, back + l], material);
  addBox(scene, [x + l, y + 0.78, back], [x + w - l, y + 0.9, back + l], material);
  addBox(scene, [x + l, y + 0.6, back], [x + w - l, y + 0.66, back + l], material);
}

/** Light under a closed sky: no sun, and brightest overhead (CIE standard overcast sky). */
export const OVERCAST: Light = {
  sun: [0, 1, 0],
  sunColour: [0, 0, 0],
  zenith: [0.86, 0.92, 1.02],
  horizon: [0.4, 0.43, 0.48],
  cloud: 0.5
};

/** Light after sunset: a deep blue sky with the last glow low in the west. */
export const DUSK: Light = {
  sun: normalise([-0.7, -0.06, 0.7]),
  sunColour: [2.6, 1.35, 0.65],
  zenith: [0.035, 0.062, 0.15],
  horizon: [0.12, 0.12, 0.17],
  cloud: 0.12
};

/** Houses and trees across the street, behind the camera: what panes mirror. */
export function addOpposite(scene: Scene, z: number): void {
  const render = plain([0.5, 0.47, 0.42], 0.08, 0.9);
  const tiles = plain([0.2, 0.13, 0.1], 0.25, 0.2);
  const dark = plain([0.05, 0.055, 0.06], 0.1);
  for (let i = 0; i < 7; i++) {
    const [x, h] = [-40 + i * 11.5, 5 + (i % 3) * 1.1];
    addBox(scene, [x, 0, z - 9], [x + 9.5, h, z], render);
    addBox(scene, [x - 0.2, h, z - 9], [x + 9.7, h + 1.6, z - 1.5], tiles);
    for (const at of [1.2, 6.4])
      for (const y of [0.9, 3.2])
        addQuad(scene, [x + at, y, z + 0.02], [1.7, 0, 0], [0, 1.3, 0], [0, 0, 1], dark);
  }
  for (const x of [-22, -3, 14]) addTree(scene, [x, 0, z + 4], 7.5, 90 + x, 260);
}

/** A bed of low plants in a box of the ground, some of them in flower. */
export function addPlanting(
  scene: Scene,
  [x0, y, z0]: Vector,
  [x1, top, z1]: Vector,
  seed: number,
  perMetre: number,
  flowers: Vector[] = []
): void {
  const random = seededRandom(seed);
  const greens = [0, 1, 2].map((i) => plain([0.05 + 0.03 * i, 0.11 + 0.04 * i, 0.03 + 0.012 * i], 0.1));
  const petals = flowers.map((colour) => plain(colour, 0.1));
  const count = Math.ceil((x1 - x0) * (z1 - z0) * perMetre);
  for (let i = 0; i < count; i++) {
    const up = random() ** 0.6;
    const centre: Vector = [x0 + (x1 - x0) * random(), y + (top - y) * up, z0 + (z1 - z0) * random()];
    const u = normalise([random() - 0.5, 0.4 * (random() - 0.5), random() - 0.5]);
    const v = normalise([-u[2] * 0.4, 0.9 - 0.4 * random(), u[0] * 0.4]);
    // Square to each other, as sides of rectangles are.
    const dot = u[0] * v[0] + u[1] * v[1] + u[2] * v[2];
    const w = normalise([v[0] - dot * u[0], v[1] - dot * u[1], v[2] - dot * u[2]]);
    const size = 0.05 + 0.05 * random();
    const inFlower = petals.length > 0 && up > 0.72 && random() < 0.3;
    addQuad(
      scene,
      centre,
      [u[0] * size, u[1] * size, u[2] * size],
      [w[0] * size, w[1] * size, w[2] * size],
      [0, 1, -0.4],
      inFlower ? petals[i % petals.length] : greens[i % 3]
    );
  }
}

/** A curtain of cloth in folds, in the plane z = const, drawn to one side of a window. */
export function addCurtain(
  scene: Scene,
  [x, y, z]: Vector,
  width: number,
  height: number,
  material: Material,
  folds = 9
): void {
  const step = width / (2 * folds);
  for (let i = 0; i < 2 * folds; i++) {
    const [near, far] = i % 2 === 0 ? [0, 0.05] : [0.05, 0];
    addQuad(scene, [x + i * step, y, z + near], [step, 0, far - near], [0, height, 0], [0, 0, -1], material);
  }
}

/** Parts that several buildings share: windows, doors, trees, ground, furniture. */
import { seededRandom } from '../random.ts';
import { type Material, boards, coursed, glass, grass, plain } from '../trace/materials.ts';
import { type Light, type Scene, type Vector, addBox, addQuad, along, normalise } from '../trace/scene.ts';

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
  options: { bars?: number; rails?: number; frame?: Material; glazed?: boolean; thickness?: number } = {}
): void {
  const { bars = 1, rails = 2, frame = WHITE_PAINT, glazed = true, thickness = 0.06 } = options;
  const t = thickness;
  if (glazed) addQuad(scene, [x, y, z + 0.04], [width, 0, 0], [0, height, 0], [0, 0, -1], glass);
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

/** A tree of many small leaves about a trunk. */
/** A tree on its foot; `lean` is how far its top stands to the right of it. */
export function addTree(
  scene: Scene,
  [x, y, z]: Vector,
  height: number,
  seed: number,
  leaves = 1500,
  lean = 0
): void {
  const random = seededRandom(seed);
  const bark = plain([0.13, 0.1, 0.075], 0.3, 0.1);
  const w = height * 0.018;
  if (lean === 0) addBox(scene, [x - w, y, z - w], [x + w, y + height * 0.6, z + w], bark);
  else {
    const up: Vector = [lean * 0.6, height * 0.6, 0];
    // Square to the trunk: quads have right angles.
    const across = normalise([height, -lean, 0]);
    const [cx, cy] = [across[0] * w, across[1] * w];
    for (const side of [-1, 1]) {
      addQuad(scene, [x - cx, y - cy, z + side * w], [2 * cx, 2 * cy, 0], up, [0, 0, side], bark);
      addQuad(
        scene,
        [x + side * cx, y + side * cy, z - w],
        [0, 0, 2 * w],
        up,
        [side * cx, side * cy, 0],
        bark
      );
    }
  }
  const greens = [0, 1, 2].map((i) => plain([0.045 + 0.028 * i, 0.095 + 0.035 * i, 0.022 + 0.008 * i], 0.1));
  const clumps = Array.from({ length: 14 }, (): Vector => {
    const a = random() * 2 * Math.PI;
    const r = height * 0.23 * Math.sqrt(random());
    const up = 0.45 + 0.45 * random();
    return [x + lean * up + r * Math.cos(a), y + height * up, z + r * Math.sin(a)];
  });
  for (let i = 0; i < leaves; i++) {
    const clump = clumps[i % clumps.length];
    const d = normalise([random() - 0.5, random() - 0.5, random() - 0.5]);
    const centre = along(clump, d, height * 0.13 * Math.cbrt(random()));
    const u = normalise([random() - 0.5, random() - 0.5, random() - 0.5]);
    const other: Vector = Math.abs(u[1]) < 0.9 ? [0, 1, 0] : [1, 0, 0];
    const v = normalise([
      u[1] * other[2] - u[2] * other[1],
      u[2] * other[0] - u[0] * other[2],
      u[0] * other[1] - u[1] * other[0]
    ]);
    const size = height * (0.013 + 0.011 * random());
    const up: Vector = [d[0], Math.abs(d[1]) + 0.3, d[2]];
    addQuad(
      scene,
      centre,
      [u[0] * size, u[1] * size, u[2] * size],
      [v[0] * size, v[1] * size, v[2] * size],
      up,
      greens[i % 3]
    );
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

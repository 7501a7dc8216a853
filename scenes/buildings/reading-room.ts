/** The reading room of Saltmarsh Library: tall windows on the left, book walls, long tables, a coffered ceiling. */
import { boards, books, coursed, grass, plain } from '../trace/materials.ts';
import { type Opening, type Scene, addBox, addQuad, addWall, emptyScene, normalise } from '../trace/scene.ts';
import { DAYLIGHT, DARK_METAL, OAK, WHITE_PAINT, addChair, addTable } from './parts.ts';
import { addTree } from './tree.ts';

export function readingRoom(): Scene {
  const light = {
    ...DAYLIGHT,
    sun: normalise([-0.72, 0.52, 0.32]),
    sunColour: [4.4, 3.9, 3.2] as [number, number, number],
    zenith: [0.5, 0.72, 1.15] as [number, number, number],
    horizon: [1.5, 1.62, 1.8] as [number, number, number]
  };
  const scene = emptyScene(light, { bounces: 3, texel: 0.4, rays: 60 });
  const [w, h, d] = [9, 5.2, 13];
  const x0 = -w / 2;
  const floor = coursed({
    unit: [0.3, 0.29, 0.26],
    chequer: [0.13, 0.12, 0.11],
    joint: [0.1, 0.1, 0.09],
    width: 0.6,
    height: 0.6,
    jointWidth: 0.006,
    bond: 0,
    vary: 0.12,
    mirror: 0.025
  });
  const wall = plain([0.66, 0.63, 0.54], 0.025, 0.8);
  const ceiling = plain([0.8, 0.79, 0.75], 0.015, 1);
  addQuad(scene, [x0, 0, 0], [w, 0, 0], [0, 0, d], [0, 1, 0], floor);
  addQuad(scene, [x0, h, 0], [w, 0, 0], [0, 0, d], [0, -1, 0], ceiling);
  // Left wall with windows, seen from inside: its front is +x.
  const openings: Opening[] = [1.2, 4.15, 7.1, 10.05].map((at) => ({
    at,
    sill: 1.05,
    width: 1.7,
    height: 3.3
  }));
  addWall(scene, [x0, 0, 0], [0, 0, 1], d, h, [1, 0, 0], wall, openings, {
    depth: 0.35,
    material: WHITE_PAINT
  });
  for (const o of openings) {
    const x = x0 - 0.3;
    const [z0, z1] = [o.at, o.at + o.width];
    for (const z of [z0, (z0 + z1) / 2 - 0.025, z1 - 0.05])
      addBox(scene, [x, o.sill, z], [x + 0.05, o.sill + o.height, z + 0.05], WHITE_PAINT);
    for (let i = 0; i <= 5; i++) {
      const y = o.sill + ((o.height - 0.05) * i) / 5;
      addBox(scene, [x + 0.005, y, z0], [x + 0.045, y + 0.04, z1], WHITE_PAINT);
    }
    addBox(scene, [x0 - 0.3, o.sill - 0.06, z0 - 0.08], [x0 + 0.12, o.sill, z1 + 0.08], OAK);
    for (const z of [z0, z1])
      scene.edges.push({ kind: 'plumb', a: [x0, o.sill + 0.1, z], b: [x0, o.sill + o.height - 0.1, z] });
  }
  addBox(scene, [-x0, 0, 0], [-x0 + 0.2, h, d], wall);
  addBox(scene, [x0, 0, d], [-x0, h, d + 0.2], wall);
  addBox(scene, [x0, 0, -0.2], [-x0, h, 0], wall);
  // Book walls: right wall in bays, and the end wall either side of a door.
  const spines = books();
  const shelfTop = 2.96;
  const bay = (z0: number, z1: number): void => {
    const x = -x0 - 0.32;
    addQuad(scene, [x + 0.06, 0.1, z0], [0, 0, z1 - z0], [0, shelfTop - 0.1, 0], [-1, 0, 0], spines, {
      s: z0 * 3.1,
      t: 0
    });
    for (const z of [z0, z1]) {
      addBox(scene, [x, 0, z - 0.025], [-x0, shelfTop + 0.05, z + 0.025], OAK);
      scene.edges.push({ kind: 'plumb', a: [x, 0.2, z - 0.025], b: [x, shelfTop - 0.1, z - 0.025] });
    }
    for (let i = 0; i <= 8; i++)
      addBox(scene, [x, 0.1 + i * 0.36 - 0.025, z0], [-x0, 0.1 + i * 0.36, z1], OAK);
    addBox(scene, [x - 0.05, shelfTop + 0.05, z0], [-x0, shelfTop + 0.18, z1], OAK);
  };
  for (let z = 0.6; z + 1.7 < d; z += 1.75) bay(z, z + 1.72);
  const endBay = (a: number, b: number): void => {
    const z = d - 0.32;
    addQuad(scene, [a, 0.1, z + 0.06], [b - a, 0, 0], [0, shelfTop - 0.1, 0], [0, 0, -1], spines, {
      s: a * 2.3 + 40,
      t: 0
    });
    for (const x of [a, b]) {
      addBox(scene, [x - 0.025, 0, z], [x + 0.025, shelfTop + 0.05, d], OAK);
      scene.edges.push({ kind: 'plumb', a: [x + 0.025, 0.2, z], b: [x + 0.025, shelfTop - 0.1, z] });
    }
    for (let i = 0; i <= 8; i++) addBox(scene, [a, 0.1 + i * 0.36 - 0.025, z], [b, 0.1 + i * 0.36, d], OAK);
    addBox(scene, [a - 0.05, shelfTop + 0.05, z - 0.05], [b + 0.05, shelfTop + 0.18, d], OAK);
  };
  endBay(-4.1, -2.75);
  endBay(-2.7, -1.3);
  endBay(1.3, 2.7);
  endBay(2.75, 4.1);
  addBox(scene, [-0.62, 0, d - 0.08], [0.62, 2.5, d], OAK);
  for (const x of [-0.8, 0.62]) addBox(scene, [x, 0, d - 0.14], [x + 0.18, 2.68, d], WHITE_PAINT);
  addBox(scene, [-0.8, 2.5, d - 0.14], [0.8, 2.68, d], WHITE_PAINT);
  for (const x of [-0.5, 0.06])
    for (const y of [0.3, 1.45])
      addBox(scene, [x, y, d - 0.1], [x + 0.44, y + 0.85, d - 0.07], boards([0.31, 0.19, 0.1], 0.5));
  addBox(scene, [0.42, 1.08, d - 0.16], [0.54, 1.11, d - 0.1], DARK_METAL);
  // A picture above the door, cornice and beams.
  addBox(scene, [-0.75, 3.25, d - 0.06], [0.75, 4.35, d], OAK);
  addQuad(
    scene,
    [-0.66, 3.34, d - 0.065],
    [1.32, 0, 0],
    [0, 0.92, 0],
    [0, 0, -1],
    plain([0.2, 0.27, 0.3], 0.9, 0.5)
  );
  for (let z = 1.6; z < d; z += 2.3) addBox(scene, [x0, h - 0.28, z - 0.12], [-x0, h, z + 0.12], WHITE_PAINT);
  for (const x of [-1.5, 1.5]) addBox(scene, [x - 0.1, h - 0.2, 0], [x + 0.1, h, d], WHITE_PAINT);
  for (const [a, b] of [
    [x0, x0 + 0.14],
    [-x0 - 0.14, -x0]
  ])
    addBox(scene, [a, h - 0.3, 0], [b, h - 0.12, d], WHITE_PAINT);
  // Tables, chairs, lamps.
  const seat = plain([0.1, 0.05, 0.035], 0.15, 0.1);
  const shade = { ...plain([0.5, 0.6, 0.4], 0.02), glow: [0.55, 0.5, 0.3] as [number, number, number] };
  for (const z of [3.3, 6.3, 9.3]) {
    addTable(scene, [-2.3, 0, z], [3.6, 0.76, 1.15], OAK);
    for (const x of [-1.9, -0.75, 0.4]) {
      addChair(scene, [x, 0, z - 0.42], 1, OAK, seat);
      addChair(scene, [x, 0, z + 1.12], -1, OAK, seat);
    }
    for (const x of [-1.35, 0.3]) {
      addBox(scene, [x - 0.015, 0.76, z + 0.55], [x + 0.015, 1.1, z + 0.58], DARK_METAL);
      addBox(scene, [x - 0.09, 0.76, z + 0.49], [x + 0.09, 0.78, z + 0.64], DARK_METAL);
      addBox(scene, [x - 0.2, 1.1, z + 0.49], [x + 0.2, 1.2, z + 0.64], shade);
    }
    addBox(scene, [-2.0, 0.76, z + 0.15], [-1.75, 0.82, z + 0.34], plain([0.3, 0.08, 0.06], 0.1));
    addBox(scene, [0.75, 0.76, z + 0.3], [1.02, 0.79, z + 0.5], plain([0.75, 0.73, 0.68], 0.05));
  }
  // Outside the windows: lawn and trees.
  addQuad(scene, [-90, -0.6, -60], [85.5, 0, 0], [0, 0, 150], [0, 1, 0], grass());
  addTree(scene, [-13, -0.6, 6], 8, 21, 900);
  addTree(scene, [-16, -0.6, 13], 10, 22, 900);
  addTree(scene, [-15, -0.6, 19], 9, 23, 900);
  for (const y of [h - 0.12]) scene.edges.push({ kind: 'level', a: [x0 + 0.3, y, d], b: [-x0 - 0.3, y, d] });
  return scene;
}

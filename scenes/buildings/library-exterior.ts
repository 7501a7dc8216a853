/** Saltmarsh Library from outside: a two-storey brick building of seven bays with stone dressings. */
import { ashlar, boards, brick, curtainedGlass, plain } from '../trace/materials.ts';
import {
  type Light,
  type Opening,
  type Scene,
  addBox,
  addQuad,
  addWall,
  emptyScene
} from '../trace/scene.ts';
import { DARK_METAL, DAYLIGHT, STONE, addOpposite, addPlanting, addStreet, addWindow } from './parts.ts';
import { addTree } from './tree.ts';

const WIDTH = 25.2;
const DEPTH = 15;
const HEIGHT = 9.2;
const BAYS = 7;
const BAY = WIDTH / BAYS;
const RECESS = 0.22;

const RED_BRICK = brick([0.36, 0.135, 0.08], [0.4, 0.36, 0.31]);
const PALE_STONE = ashlar([0.6, 0.55, 0.45]);
const SMOOTH_STONE = plain([0.6, 0.55, 0.45], 0.1, 0.25);
const DOOR = boards([0.05, 0.11, 0.1], 0.2);
const ROOF = plain([0.14, 0.145, 0.155], 0.1);

function frontOpenings(): Opening[] {
  const openings: Opening[] = [];
  for (let bay = 0; bay < BAYS; bay++) {
    const at = bay * BAY + BAY / 2 - 0.75;
    if (bay !== 3) openings.push({ at, sill: 1.3, width: 1.5, height: 2.5 });
    openings.push({ at, sill: 5.4, width: 1.5, height: 2.2 });
  }
  openings.push({ at: 3 * BAY + BAY / 2 - 1.1, sill: 0.45, width: 2.2, height: 3.3 });
  return openings;
}

function dressings(scene: Scene, x0: number, openings: Opening[]): void {
  for (const o of openings) {
    const x = x0 + o.at;
    const door = o.sill < 1;
    if (!door)
      addBox(scene, [x - 0.1, o.sill - 0.16, -0.12], [x + o.width + 0.1, o.sill, RECESS * 0.6], SMOOTH_STONE);
    addBox(
      scene,
      [x - 0.16, o.sill + o.height, -0.05],
      [x + o.width + 0.16, o.sill + o.height + 0.3, 0.02],
      SMOOTH_STONE
    );
    if (door) {
      addBox(scene, [x, o.sill, RECESS], [x + o.width / 2 - 0.01, o.sill + 2.5, RECESS + 0.06], DOOR);
      addBox(
        scene,
        [x + o.width / 2 + 0.01, o.sill, RECESS],
        [x + o.width, o.sill + 2.5, RECESS + 0.06],
        DOOR
      );
      for (const side of [-0.12, 0.08]) {
        const hx = x + o.width / 2 + side;
        addBox(
          scene,
          [hx, o.sill + 0.9, RECESS - 0.07],
          [hx + 0.04, o.sill + 1.4, RECESS - 0.03],
          DARK_METAL
        );
      }
      addWindow(scene, [x, o.sill + 2.55, RECESS], o.width, o.height - 2.55, {
        bars: 3,
        rails: 0,
        frame: DARK_METAL
      });
    } else {
      addWindow(scene, [x, o.sill, RECESS], o.width, o.height, {
        bars: 1,
        rails: 3,
        frame: DARK_METAL,
        pane: curtainedGlass(o.width, o.height)
      });
    }
    for (const edge of [x, x + o.width]) {
      scene.edges.push({ kind: 'plumb', a: [edge, o.sill + 0.1, 0], b: [edge, o.sill + o.height - 0.1, 0] });
    }
  }
}

export function libraryExterior(light: Light = DAYLIGHT): Scene {
  const scene = emptyScene(light, { bounces: 1, texel: 0.6, rays: 40 });
  const x0 = -WIDTH / 2;
  addStreet(scene, 9);
  const openings = frontOpenings();
  addWall(scene, [x0, 0, 0], [1, 0, 0], WIDTH, HEIGHT, [0, 0, -1], RED_BRICK, openings, {
    depth: RECESS,
    material: SMOOTH_STONE
  });
  dressings(scene, x0, openings);
  // Side walls (the east one has windows), back and roof.
  const side: Opening[] = [2.2, 6.5, 10.8].flatMap((at) => [
    { at, sill: 1.3, width: 1.5, height: 2.5 },
    { at, sill: 5.4, width: 1.5, height: 2.2 }
  ]);
  for (const [x, normal] of [
    [x0, -1],
    [-x0, 1]
  ] as const) {
    addWall(scene, [x, 0, 0], [0, 0, 1], DEPTH, HEIGHT, [normal, 0, 0], RED_BRICK, side, {
      depth: RECESS,
      material: SMOOTH_STONE
    });
    for (const o of side) {
      const inner = x - normal * (RECESS + 0.02);
      addQuad(
        scene,
        [inner, o.sill, o.at],
        [0, 0, o.width],
        [0, o.height, 0],
        [normal, 0, 0],
        plain([0.03, 0.035, 0.04], 0.1)
      );
      for (let i = 0; i < 4; i++) {
        const y = o.sill + (o.height * i) / 4;
        addBox(scene, [inner - 0.02, y - 0.02, o.at], [inner + 0.02, y + 0.03, o.at + o.width], DARK_METAL);
      }
      addBox(
        scene,
        [inner - 0.02, o.sill, o.at + o.width / 2 - 0.025],
        [inner + 0.02, o.sill + o.height, o.at + o.width / 2 + 0.025],
        DARK_METAL
      );
      addBox(
        scene,
        [Math.min(x, x + normal * 0.12), o.sill - 0.16, o.at - 0.1],
        [Math.max(x, x + normal * 0.12), o.sill, o.at + o.width + 0.1],
        SMOOTH_STONE
      );
      addBox(
        scene,
        [Math.min(x, x + normal * 0.05), o.sill + o.height, o.at - 0.16],
        [Math.max(x, x + normal * 0.05), o.sill + o.height + 0.3, o.at + o.width + 0.16],
        SMOOTH_STONE
      );
    }
  }
  addBox(scene, [x0, 0, DEPTH - 0.1], [-x0, HEIGHT, DEPTH], RED_BRICK, { front: null });
  addQuad(scene, [x0, HEIGHT, 0], [WIDTH, 0, 0], [0, 0, DEPTH], [0, 1, 0], ROOF);
  // Plinth, string course, corner piers, cornice and parapet, all round.
  const ring = (y0: number, y1: number, out: number, material = SMOOTH_STONE): void => {
    addBox(scene, [x0 - out, y0, -out], [-x0 + out, y1, 0.02], material);
    addBox(scene, [x0 - out, y0, 0.02], [x0 + 0.02, y1, DEPTH + out], material);
    addBox(scene, [-x0 - 0.02, y0, 0.02], [-x0 + out, y1, DEPTH + out], material);
  };
  for (const [a, b] of [
    [x0 - 0.1, -1.25],
    [1.25, -x0 + 0.1]
  ])
    addBox(scene, [a, 0, -0.1], [b, 0.75, 0.02], PALE_STONE);
  addBox(scene, [x0 - 0.1, 0, 0.02], [x0 + 0.02, 0.75, DEPTH], PALE_STONE);
  addBox(scene, [-x0 - 0.02, 0, 0.02], [-x0 + 0.1, 0.75, DEPTH], PALE_STONE);
  ring(4.55, 4.8, 0.09);
  ring(8.3, 8.5, 0.18);
  ring(8.5, 8.75, 0.42);
  ring(8.75, 9.5, 0.06, PALE_STONE);
  ring(9.5, 9.62, 0.14);
  // Portal.
  for (const x of [-1.75, 1.25]) {
    addBox(scene, [x, 0, -0.42], [x + 0.5, 4.05, 0.02], PALE_STONE);
    for (const edge of [x, x + 0.5])
      scene.edges.push({ kind: 'plumb', a: [edge, 0.6, -0.42], b: [edge, 3.9, -0.42] });
  }
  addBox(scene, [-2.05, 4.05, -0.62], [2.05, 4.5, 0.02], SMOOTH_STONE);
  for (let i = 0; i < 3; i++) addBox(scene, [-2.1, 0, -1.5 + i * 0.35], [2.1, 0.15 * (i + 1), 0.02], STONE);
  for (const x of [x0, -x0]) scene.edges.push({ kind: 'plumb', a: [x, 1, 0], b: [x, 8.2, 0] });
  for (const [y, z] of [
    [4.55, -0.09],
    [4.8, -0.09],
    [8.75, -0.42],
    [9.62, -0.14]
  ]) {
    scene.edges.push({ kind: 'level', a: [x0 + 0.5, y, z], b: [-x0 - 0.5, y, z] });
  }
  // Lamps, bollards, rain pipes.
  for (const x of [-8.6, 8.6]) addBox(scene, [x - 0.05, 0.2, -0.14], [x + 0.05, 8.3, -0.04], DARK_METAL);
  for (const x of [-9, -6, -3, 3, 6, 9])
    addBox(scene, [x - 0.07, 0, -6.2], [x + 0.07, 0.95, -6.06], DARK_METAL);
  // Neighbours and trees.
  const plaster = plain([0.62, 0.58, 0.5], 0.08, 1.2);
  const dark = plain([0.05, 0.055, 0.06], 0.1);
  for (const [a, b, h, z] of [
    [-47, -24, 7.4, 6],
    [26, 45, 6.3, 9],
    [-25, -15.5, 5, 34]
  ] as const) {
    addBox(scene, [a, 0, z], [b, h, z + 12], plaster, { top: ROOF });
    addBox(scene, [a - 0.2, h, z - 0.2], [b + 0.2, h + 0.25, z + 12], ROOF);
    for (let x = a + 1.5; x + 1.2 < b; x += 3) {
      for (const y of [1.1, 4])
        if (y + 1.6 < h) addQuad(scene, [x, y, z - 0.01], [1.1, 0, 0], [0, 1.6, 0], [0, 0, -1], dark);
    }
  }
  for (const [a, b] of [
    [x0 + 0.4, -2.4],
    [2.4, -x0 - 0.4]
  ])
    addPlanting(scene, [a, 0, -0.75], [b, 0.42, -0.15], 15 + a, 130, [
      [0.5, 0.45, 0.5],
      [0.3, 0.16, 0.42]
    ]);
  addOpposite(scene, -36);
  addTree(scene, [-17.5, 0, -2.5], 8.5, 11);
  addTree(scene, [18.5, 0, -1.5], 9.5, 12);
  addTree(scene, [23, 0, -4.5], 7.5, 13);
  addTree(scene, [-23, 0, -3], 7, 14);
  return scene;
}

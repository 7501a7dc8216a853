/**
 * A quay with all that lies in the way of measuring: a warehouse whose walls lean a little, gables and a slanted stair, a
 * tower to one side, open water to a far horizon, railings, parked vans, people, a sign, a bare tree.
 */
import { seededRandom } from '../../core/math/random.ts';
import { brick, coursed, plain } from '../trace/materials.ts';
import {
  type Light,
  type Scene,
  type Vector,
  addBox,
  addQuad,
  addWall,
  emptyScene,
  normalise
} from '../trace/scene.ts';
import { DARK_METAL, DAYLIGHT, STONE, WHITE_PAINT, addGable, addWindow } from './parts.ts';
import { addTree } from './tree.ts';

const QUAY = 7;
const WATER = -2.4;
const BRICK = brick([0.3, 0.15, 0.1]);
const RENDER = plain([0.58, 0.54, 0.47], 0.06, 1.4);
const SLATE = plain([0.11, 0.115, 0.125], 0.15, 0.6);
const SETTS = coursed({
  unit: [0.27, 0.26, 0.25],
  joint: [0.12, 0.115, 0.1],
  width: 0.24,
  height: 0.16,
  jointWidth: 0.014,
  vary: 0.3
});

/** Turns what was added to a scene since `from` about its foot, in its own plane, by so many degrees: walls that lean. */
function lean(scene: Scene, from: number, [px, py]: Vector, degrees: number): void {
  const [c, s] = [Math.cos((degrees * Math.PI) / 180), Math.sin((degrees * Math.PI) / 180)];
  const turned = ([x, y, z]: Vector): Vector => [c * x + s * y, c * y - s * x, z];
  for (const quad of scene.quads.slice(from)) {
    const [x, y, z] = turned([quad.origin[0] - px, quad.origin[1] - py, quad.origin[2]]);
    quad.origin = [x + px, y + py, z];
    [quad.u, quad.v, quad.normal] = [turned(quad.u), turned(quad.v), turned(quad.normal)];
  }
}

function addWarehouse(scene: Scene): void {
  const openings = [];
  for (let bay = 0; bay < 6; bay++)
    for (const sill of [1.1, 4.6, 8.1]) openings.push({ at: 1.4 + bay * 3.9, sill, width: 1.7, height: 2.1 });
  addWall(scene, [-24, 0, 0], [1, 0, 0], 24, 11.4, [0, 0, -1], BRICK, openings, {
    depth: 0.25,
    material: STONE
  });
  for (const { at, sill, width, height } of openings) {
    addWindow(scene, [at - 24, sill, 0.25], width, height, { bars: 2, rails: 2, frame: WHITE_PAINT });
    addBox(scene, [at - 24.1, sill - 0.15, -0.08], [at - 24 + width + 0.1, sill, 0.2], STONE);
  }
  addBox(scene, [-24, 0, 14], [0, 11.4, 14.2], BRICK);
  addQuad(scene, [0, 0, 0], [0, 0, 14], [0, 11.4, 0], [1, 0, 0], BRICK);
  addQuad(scene, [-24, 0, 0], [0, 0, 14], [0, 11.4, 0], [-1, 0, 0], BRICK);
  // Two roofs side by side, with their slopes in the picture.
  for (const x of [-24, -12]) {
    addQuad(scene, [x - 0.2, 11.3, -0.3], [6.2, 3.4, 0], [0, 0, 14.6], [-0.5, 1, 0], SLATE);
    addQuad(scene, [x + 12.2, 11.3, -0.3], [-6.2, 3.4, 0], [0, 0, 14.6], [0.5, 1, 0], SLATE);
    for (let i = 0; i < 20; i++) {
      const inset = (6 * (i + 1)) / 20;
      const y = 11.4 + (3.3 * i) / 20;
      addBox(scene, [x + inset, y, 0], [x + 12 - inset, y + 0.17, 0.2], BRICK);
    }
  }
  addBox(scene, [-14.2, 11.4, 3], [-12.6, 17, 4.4], BRICK);
  // Letters of a sign, a stair up the front, downpipes.
  const letters = [-20.5, -19.2, -17.9, -16.6, -15.3, -14];
  letters.forEach((x, i) => {
    addBox(scene, [x, 7, -0.1], [x + 0.16, 7.9, -0.02], DARK_METAL);
    if (i % 2 === 0) addBox(scene, [x, 7.7, -0.1], [x + 0.7, 7.9, -0.02], DARK_METAL);
    if (i % 3 !== 1) addBox(scene, [x, 7.3, -0.1], [x + 0.6, 7.46, -0.02], DARK_METAL);
  });
  for (let i = 0; i < 16; i++)
    addBox(scene, [-9 + i * 0.3, i * 0.2, -1.7], [-8.7 + i * 0.3, i * 0.2 + 0.06, -0.6], DARK_METAL);
  for (const z of [-1.7, -0.65])
    addQuad(scene, [-9, 0.9, z], [4.8, 3.2, 0], [-0.033, 0.05, 0], [0, 0, -1], DARK_METAL);
  for (const x of [-12.1, -0.3]) addBox(scene, [x, 0.2, -0.16], [x + 0.11, 11.2, -0.04], DARK_METAL);
}

function addTower(scene: Scene): void {
  addBox(scene, [-35, 0, 3], [-29, 22, 9], RENDER);
  for (let y = 2.5; y < 20; y += 3.6)
    for (const x of [-33.9, -31.5]) {
      addQuad(scene, [x, y, 2.97], [1.2, 0, 0], [0, 2, 0], [0, 0, -1], plain([0.05, 0.055, 0.065], 0.1));
      addQuad(
        scene,
        [-28.97, y, 4.2 + (x + 33.9)],
        [0, 0, 1.2],
        [0, 2, 0],
        [1, 0, 0],
        plain([0.05, 0.055, 0.065], 0.1)
      );
    }
  addBox(scene, [-35.3, 22, 2.7], [-28.7, 22.7, 9.3], STONE);
  for (const [u, x] of [
    [3.2, -35.1],
    [-3.2, -28.9]
  ])
    addQuad(scene, [x, 22.7, 2.9], [u, 5, 0], [0, 0, 6.2], [-u, 1, 0], SLATE);
  for (const z of [2.95, 9.05]) addGable(scene, -32, [z, z + 0.02], 22.7, 0.1, SLATE);
}

function addVan(scene: Scene, x: number, z: number, paint: Vector): void {
  const body = plain(paint, 0.02);
  const dark = plain([0.03, 0.032, 0.036], 0.05);
  addBox(scene, [x, 0.35, z], [x + 3.1, 2.1, z + 1.9], body);
  addBox(scene, [x + 3.1, 0.35, z], [x + 4.4, 1.2, z + 1.9], body);
  addQuad(scene, [x + 4.05, 1.2, z + 0.05], [-0.95, 0.85, 0], [0, 0, 1.8], [1, 1, 0], dark);
  addQuad(scene, [x + 2.2, 1.2, z - 0.01], [0.8, 0, 0], [0, 0.65, 0], [0, 0, -1], dark);
  for (const w of [x + 0.5, x + 3.2]) addBox(scene, [w, 0, z - 0.03], [w + 0.66, 0.66, z + 1.93], dark);
}

/** A figure, leaning as people do. */
function addPerson(scene: Scene, x: number, z: number, seed: number): void {
  const random = seededRandom(seed);
  const from = scene.quads.length;
  const cloth = plain([0.08 + 0.3 * random(), 0.08 + 0.2 * random(), 0.1 + 0.3 * random()], 0.1);
  addBox(scene, [x - 0.17, 0, z - 0.1], [x - 0.02, 0.85, z + 0.1], plain([0.06, 0.07, 0.1], 0.1));
  addBox(scene, [x + 0.04, 0, z - 0.15], [x + 0.19, 0.85, z + 0.06], plain([0.06, 0.07, 0.1], 0.1));
  addBox(scene, [x - 0.24, 0.85, z - 0.13], [x + 0.24, 1.48, z + 0.13], cloth);
  addBox(scene, [x - 0.1, 1.5, z - 0.1], [x + 0.1, 1.76, z + 0.1], plain([0.45, 0.3, 0.22], 0.1));
  lean(scene, from, [x, 0, z], 8 * (random() - 0.5));
}

/** A tree without leaves: its twigs point everywhere, most of them up. */
function addBareTree(scene: Scene, [x, y, z]: Vector, height: number, seed: number): void {
  const random = seededRandom(seed);
  const bark = plain([0.1, 0.085, 0.07], 0.2, 0.1);
  const grow = (at: Vector, direction: Vector, length: number, width: number): void => {
    const side = normalise([direction[1], -direction[0], 0.001]);
    const to: Vector = [0, 1, 2].map((i) => at[i] + direction[i] * length) as Vector;
    const along: Vector = [direction[0] * length, direction[1] * length, direction[2] * length];
    const flat: Vector = [along[0], along[1], 0];
    addQuad(scene, at, flat, [side[0] * width, side[1] * width, 0], [0, 0, -1], bark);
    if (length < height * 0.035) return;
    for (let i = 0; i < 3; i++) {
      const bent = normalise([
        direction[0] + 1.1 * (random() - 0.5),
        direction[1] + 0.7 * (random() - 0.35),
        direction[2] + 0.8 * (random() - 0.5)
      ]);
      grow(to, bent, length * (0.55 + 0.2 * random()), width * 0.6);
    }
  };
  grow([x, y, z], normalise([0.05, 1, 0]), height * 0.3, height * 0.03);
}

export function waterfront(light: Light = DAYLIGHT): Scene {
  const scene = emptyScene(light, { bounces: 1, texel: 0.9, rays: 24 });
  addQuad(scene, [-90, 0, -60], [90 + QUAY, 0, 0], [0, 0, 80], [0, 1, 0], SETTS, { s: -90, t: -60 });
  addBox(scene, [QUAY - 0.5, WATER - 1, -60], [QUAY, 0.12, 20], STONE);
  // Open water: its far edge is the horizon.
  const water = plain([0.075, 0.115, 0.14], 0.18, 3);
  addQuad(scene, [-4000, WATER, 20], [12000, 0, 0], [0, 0, 9000], [0, 1, 0], water, { texels: 2 });
  addQuad(scene, [QUAY, WATER, -60], [3000, 0, 0], [0, 0, 80], [0, 1, 0], water, { texels: 2 });
  let from = scene.quads.length;
  addWarehouse(scene);
  lean(scene, from, [-12, 0, 0], 0.35);
  from = scene.quads.length;
  addTower(scene);
  lean(scene, from, [-32, 0, 0], -0.4);
  // A railing along the quay and one across it, whose rails are level and whose posts lean out.
  for (let z = -40; z <= 18; z += 2)
    addBox(scene, [QUAY - 0.3, 0.1, z], [QUAY - 0.22, 1.1, z + 0.08], DARK_METAL);
  for (const y of [0.55, 1.05]) addBox(scene, [QUAY - 0.29, y, -40], [QUAY - 0.23, y + 0.05, 18], DARK_METAL);
  from = scene.quads.length;
  for (let x = 0.6; x < QUAY - 0.5; x += 0.13)
    addBox(scene, [x, 0.1, 12], [x + 0.03, 1.1, 12.03], DARK_METAL);
  lean(scene, from, [3, 0, 0], 1.5);
  addVan(scene, -21, -6.2, [0.6, 0.6, 0.58]);
  addVan(scene, -5.5, -7.5, [0.09, 0.16, 0.3]);
  for (const [i, [x, z]] of [
    [-15.5, -8],
    [-14.7, -8.3],
    [-10.2, -5],
    [1.4, -9],
    [3.2, -4.4],
    [-26, -9]
  ].entries())
    addPerson(scene, x, z, 40 + i);
  addBareTree(scene, [4.2, 0, -2.5], 9, 5);
  addTree(scene, [-38, 0, -2], 8, 23, 900, 0.8);
  return scene;
}

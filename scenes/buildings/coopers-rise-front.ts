/** 14 Cooper's Rise from the street: a semi of buff brick with a tiled roof, sash windows and a small garden. */
import {
  type Colour,
  type Material,
  brick,
  coursed,
  curtainedGlass,
  grass,
  litGlass,
  plain
} from '../trace/materials.ts';
import {
  type Light,
  type Opening,
  type Scene,
  type Vector,
  addBox,
  addQuad,
  addWall,
  emptyScene,
  normalise
} from '../trace/scene.ts';
import { addBin, addCable } from './street-objects.ts';
import {
  ASPHALT,
  DARK_METAL,
  DAYLIGHT,
  PAVING,
  STONE,
  WHITE_PAINT,
  addGable,
  addOpposite,
  addPlanting,
  addWindow
} from './parts.ts';
import { addTree } from './tree.ts';

const BUFF = brick([0.46, 0.33, 0.2], [0.5, 0.47, 0.41]);
const TILES = coursed({
  unit: [0.3, 0.13, 0.08],
  joint: [0.09, 0.05, 0.04],
  width: 0.2,
  height: 0.16,
  jointWidth: 0.012,
  vary: 0.5
});
const RENDER = plain([0.7, 0.67, 0.6], 0.05, 0.8);

const AFTERNOON: Light = { ...DAYLIGHT, sun: normalise([0.5, 0.66, -0.62]) };
const LAMP: Colour = [1, 0.58, 0.25];

/** Where a cable hangs across the sky. */
export const CABLE: { from: Vector; to: Vector; sag: number } = {
  from: [-15, 7.9, -3],
  to: [14, 8.3, -3],
  sag: 0.5
};
/** The foot of the bin. */
export const BIN: Vector = [-3, 0, -6.9];

/** `lamps`: how bright the lit windows are; 0 by day. `inTheWay`: a bin before the house, a cable across the sky. */
export function coopersRiseFront(light: Light = AFTERNOON, lamps = 0, inTheWay = false): Scene {
  const scene = emptyScene(light, { bounces: 1, texel: 0.5, rays: 40 });
  const [x0, x1, h, d] = [-4.6, 4.6, 5.4, 8.5];
  addQuad(scene, [-200, -0.02, -60], [400, 0, 0], [0, 0, 400], [0, 1, 0], grass(), { s: -200, t: -60 });
  addQuad(scene, [-60, -0.005, -8.2], [120, 0, 0], [0, 0, 2], [0, 1, 0], PAVING, { s: -60 });
  addBox(scene, [-60, -0.12, -8.35], [60, 0.0, -8.2], plain([0.5, 0.49, 0.46], 0.1));
  addQuad(scene, [-60, 0.0, -16], [120, 0, 0], [0, 0, 7.6], [0, 1, 0], ASPHALT);
  const lit = (width: number, height: number, share: number): Material =>
    lamps * share > 0
      ? litGlass(width, height, LAMP.map((value) => value * lamps * share) as Colour)
      : curtainedGlass(width, height);
  const openings: Opening[] = [
    { at: 0.9, sill: 0.85, width: 1.9, height: 1.6 },
    { at: 1.1, sill: 3.35, width: 1.5, height: 1.4 },
    { at: 6.6, sill: 3.35, width: 1.5, height: 1.4 },
    { at: 6.4, sill: 0.85, width: 1.9, height: 1.6 },
    { at: 4.05, sill: 0.2, width: 1.1, height: 2.4 },
    { at: 4.15, sill: 3.55, width: 0.9, height: 1.2 }
  ];
  addWall(scene, [x0, 0, 0], [1, 0, 0], x1 - x0, h, [0, 0, -1], BUFF, openings, {
    depth: 0.12,
    material: WHITE_PAINT
  });
  for (const o of openings) {
    const x = x0 + o.at;
    const door = o.sill < 0.5;
    addBox(
      scene,
      [x - 0.12, o.sill + o.height, -0.03],
      [x + o.width + 0.12, o.sill + o.height + 0.22, 0.02],
      STONE
    );
    if (door) {
      addBox(scene, [x, o.sill, 0.12], [x + o.width, o.sill + 2.02, 0.17], plain([0.02, 0.075, 0.13], 0.03));
      for (const [px, py] of [
        [0.16, 0.2],
        [0.6, 0.2],
        [0.16, 1.1],
        [0.6, 1.1]
      ]) {
        addBox(
          scene,
          [x + px, o.sill + py, 0.1],
          [x + px + 0.34, o.sill + py + 0.7, 0.13],
          plain([0.025, 0.09, 0.15], 0.03)
        );
      }
      addBox(
        scene,
        [x + 0.92, o.sill + 1, 0.06],
        [x + 0.98, o.sill + 1.06, 0.12],
        plain([0.55, 0.42, 0.15], 0.1)
      );
      addWindow(scene, [x, o.sill + 2.04, 0.12], o.width, o.height - 2.04, {
        bars: 1,
        rails: 0,
        thickness: 0.05,
        pane: lit(o.width, o.height - 2.04, 0.7)
      });
    } else {
      addWindow(scene, [x, o.sill, 0.12], o.width, o.height, {
        bars: o.width > 1.7 ? 2 : 1,
        rails: 1,
        thickness: 0.07,
        pane: lit(o.width, o.height, o.at > 6.5 && o.sill > 3 ? 0 : o.sill > 3 ? 0.55 : 1)
      });
      addBox(scene, [x - 0.08, o.sill - 0.1, -0.1], [x + o.width + 0.08, o.sill, 0.1], STONE);
    }
    for (const edge of [x, x + o.width])
      scene.edges.push({
        kind: 'plumb',
        a: [edge, o.sill + 0.08, 0],
        b: [edge, o.sill + o.height - 0.08, 0]
      });
  }
  // Flanks, with stepped strips filling the gable beneath the roof slope.
  const ridge = 3.1;
  for (const x of [x0, x1 - 0.2]) {
    addBox(scene, [x, 0, 0.01], [x + 0.2, h, d], BUFF, { front: null });
    addGable(scene, x, [0.2, d - 0.2], h, ridge, BUFF);
  }
  addBox(scene, [x0, 0, d - 0.1], [x1, h, d], BUFF);
  const over = 0.38;
  const slope = ridge / (d / 2);
  const run = d / 2 + over;
  addQuad(
    scene,
    [x0 - 0.25, h + 0.12 - over * slope, -over],
    [x1 - x0 + 0.5, 0, 0],
    [0, run * slope, run],
    [0, 1, -0.5],
    TILES
  );
  addQuad(
    scene,
    [x0 - 0.25, h + 0.12 - over * slope, d + over],
    [x1 - x0 + 0.5, 0, 0],
    [0, run * slope, -run],
    [0, 1, 0.5],
    TILES
  );
  addBox(
    scene,
    [x0 - 0.25, h + 0.05 + ridge, d / 2 - 0.12],
    [x1 + 0.25, h + 0.26 + ridge, d / 2 + 0.12],
    plain([0.26, 0.11, 0.07], 0.2, 0.3)
  );
  addBox(scene, [x0 - 0.25, h - 0.3, -over], [x1 + 0.25, h - 0.12, -over + 0.04], WHITE_PAINT);
  addQuad(scene, [x0 - 0.25, h - 0.3, -over], [x1 - x0 + 0.5, 0, 0], [0, 0, over], [0, -1, 0], WHITE_PAINT);
  addBox(scene, [x0 - 0.25, h - 0.16, -over - 0.11], [x1 + 0.25, h - 0.07, -over], DARK_METAL);
  addBox(scene, [x1 - 0.55, 0, -0.1], [x1 - 0.46, h - 0.3, -0.01], DARK_METAL);
  addBox(scene, [-3, h + ridge - 0.8, d / 2 - 0.5], [-1.9, h + ridge + 1.3, d / 2 + 0.2], BUFF);
  addBox(scene, [-3.06, h + ridge + 1.3, d / 2 - 0.56], [-1.84, h + ridge + 1.4, d / 2 + 0.26], STONE);
  for (const x of [-2.75, -2.3])
    addBox(
      scene,
      [x, h + ridge + 1.4, d / 2 - 0.25],
      [x + 0.22, h + ridge + 1.8, d / 2 - 0.03],
      plain([0.4, 0.18, 0.1], 0.1)
    );
  // Step, path, low wall, gate posts, hedge.
  addBox(scene, [-0.75, 0, -0.7], [0.75, 0.2, 0.1], STONE);
  addQuad(scene, [-0.6, 0.004, -6.2], [1.2, 0, 0], [0, 0, 5.5], [0, 1, 0], PAVING);
  for (const [a, b] of [
    [-6.5, -0.85],
    [0.85, 6.5]
  ]) {
    addBox(scene, [a, 0, -6.2], [b, 0.62, -5.98], BUFF);
    addBox(scene, [a - 0.03, 0.62, -6.24], [b + 0.03, 0.69, -5.94], STONE);
  }
  for (const x of [-1.05, 0.72]) addBox(scene, [x, 0, -6.27], [x + 0.33, 1.05, -5.94], BUFF, { top: STONE });
  for (let i = 0; i < 7; i++) addTree(scene, [-5.9 + i * 0.75, -0.35, -5.3], 1.35, 50 + i, 260);
  addTree(scene, [3.4, -0.3, -4.4], 1.9, 61, 300);
  // Neighbours.
  for (const [a, b] of [
    [-19, -8],
    [8.6, 20]
  ]) {
    addBox(scene, [a, 0, 1.5], [b, 5.2, 10], RENDER);
    addQuad(scene, [a - 0.2, 5.0, 1.1], [b - a + 0.4, 0, 0], [0, 3.4, 4.65], [0, 1, -0.5], TILES);
    addQuad(scene, [a - 0.2, 5.0, 10.4], [b - a + 0.4, 0, 0], [0, 3.4, -4.65], [0, 1, 0.5], TILES);
    for (const x of [a, b - 0.2]) addGable(scene, x, [1.5, 10], 5.2, 2.9, RENDER);
    for (const x of [a + 1.5, a + 7])
      for (const y of [0.9, 3.3]) {
        addBox(scene, [x - 0.06, y - 0.06, 1.44], [x + 1.66, y + 1.46, 1.5], WHITE_PAINT);
        addQuad(scene, [x, y, 1.43], [1.6, 0, 0], [0, 1.4, 0], [0, 0, -1], plain([0.05, 0.06, 0.065], 0.1));
      }
  }
  for (const [a, b] of [
    [-4.2, -0.9],
    [0.9, 4.2]
  ])
    addPlanting(scene, [a, 0, -1.1], [b, 0.5, -0.35], 64 + a, 140, [
      [0.55, 0.06, 0.08],
      [0.6, 0.5, 0.08],
      [0.5, 0.42, 0.5]
    ]);
  addOpposite(scene, -30);
  if (lamps > 0)
    addBox(scene, [-0.95, 2.05, -0.2], [-0.79, 2.32, -0.05], {
      ...plain([0.6, 0.55, 0.45], 0.02),
      glow: LAMP.map((value) => value * lamps * 5) as Colour
    });
  addTree(scene, [-7, 0, 9], 9.5, 70, 1300);
  addTree(scene, [7.2, 0, 12], 11, 71, 1300);
  // An old one that leans over the pavement: no plumb line, for all its length.
  addTree(scene, [-7.6, 0, -5.4], 6.4, 72, 2400, 1.5);
  if (inTheWay) {
    addBin(scene, BIN);
    addCable(scene, CABLE.from, CABLE.to, CABLE.sag);
  }
  for (const x of [x0, x1]) scene.edges.push({ kind: 'plumb', a: [x, 0.8, 0], b: [x, 4.9, 0] });
  scene.edges.push({ kind: 'level', a: [x0, h - 0.12, -over], b: [x1, h - 0.12, -over] });
  return scene;
}

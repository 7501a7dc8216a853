/** The sitting room of 14 Cooper's Rise in the evening light: lamps lit, and two windows that are far brighter. */
import { type Colour, boards, books, grass, plain } from '../trace/materials.ts';
import { type Opening, type Scene, addBox, addQuad, addWall, emptyScene, normalise } from '../trace/scene.ts';
import { DARK_METAL, DAYLIGHT, OAK, STONE, WHITE_PAINT, addCurtain, addTable, addWindow } from './parts.ts';
import { addTree } from './tree.ts';

const LAMP: Colour = [1, 0.6, 0.28];
const lit = (strength: number): Colour => LAMP.map((value) => value * strength) as Colour;

export function sittingRoom(): Scene {
  const light = {
    ...DAYLIGHT,
    sun: normalise([0.55, 0.4, -0.73]),
    sunColour: [5, 4.4, 3.6] as Colour,
    zenith: [1.3, 1.75, 2.6] as Colour,
    horizon: [2.6, 2.8, 3.1] as Colour
  };
  const scene = emptyScene(light, { bounces: 3, texel: 0.24, rays: 90 });
  const [x0, x1, h, d] = [-2.7, 2.7, 2.65, 5];
  const wall = plain([0.66, 0.64, 0.58], 0.015, 0.8);
  const cloth = plain([0.5, 0.46, 0.38], 0.12, 0.06);
  const sofa = plain([0.16, 0.2, 0.22], 0.14, 0.05);
  addQuad(
    scene,
    [x0, 0, -1.5],
    [0, 0, d + 1.5],
    [x1 - x0, 0, 0],
    [0, 1, 0],
    boards([0.3, 0.19, 0.1], 0.12, 0.03)
  );
  addQuad(scene, [x0, h, -1.5], [x1 - x0, 0, 0], [0, 0, d + 1.5], [0, -1, 0], plain([0.8, 0.8, 0.78], 0.01));
  // The far wall with its windows.
  const openings: Opening[] = [
    { at: 0.7, sill: 0.75, width: 1.25, height: 1.5 },
    { at: 3.45, sill: 0.75, width: 1.25, height: 1.5 }
  ];
  addWall(scene, [x0, 0, d], [1, 0, 0], x1 - x0, h, [0, 0, -1], wall, openings, {
    depth: 0.22,
    material: WHITE_PAINT
  });
  addBox(scene, [x0, 0, d + 0.22], [x0 + 0.7, h, d + 0.4], wall);
  addBox(scene, [x0 - 0.2, 0, -1.5], [x0, h, d + 0.3], wall);
  addBox(scene, [x1, 0, -1.5], [x1 + 0.2, h, d + 0.3], wall);
  addBox(scene, [x0, 0, -1.7], [x1, h, -1.5], wall);
  for (const { at, sill, width, height } of openings) {
    const x = x0 + at;
    addWindow(scene, [x, sill, d + 0.12], width, height, {
      bars: 1,
      rails: 1,
      glazed: false,
      thickness: 0.065
    });
    addBox(scene, [x - 0.1, sill - 0.06, d - 0.12], [x + width + 0.1, sill, d + 0.1], WHITE_PAINT);
    for (const edge of [x, x + width])
      scene.edges.push({ kind: 'plumb', a: [edge, sill + 0.06, d], b: [edge, sill + height - 0.06, d] });
    // Curtains to both sides, on a pole.
    addCurtain(scene, [x - 0.32, 0.05, d - 0.14], 0.36, 2.35, cloth);
    addCurtain(scene, [x + width - 0.04, 0.05, d - 0.14], 0.36, 2.35, cloth);
    addBox(scene, [x - 0.42, 2.38, d - 0.12], [x + width + 0.42, 2.41, d - 0.09], DARK_METAL);
  }
  // Skirting and cornice.
  for (const [y0, y1, out] of [
    [0, 0.14, 0.02],
    [h - 0.1, h, 0.08]
  ]) {
    addBox(scene, [x0, y0, d - out], [x1, y1, d], WHITE_PAINT);
    addBox(scene, [x0, y0, -1.5], [x0 + out, y1, d], WHITE_PAINT);
    addBox(scene, [x1 - out, y0, -1.5], [x1, y1, d], WHITE_PAINT);
  }
  scene.edges.push({ kind: 'level', a: [x0 + 0.2, h - 0.1, d - 0.08], b: [x1 - 0.2, h - 0.1, d - 0.08] });
  // Fireplace on the left, with a mirror over it; books beside.
  addBox(scene, [x0, 0, 2.1], [x0 + 0.32, h, 3.7], wall);
  addBox(scene, [x0 + 0.32, 0, 2.3], [x0 + 0.44, 1.12, 3.5], STONE);
  addBox(scene, [x0 + 0.3, 1.12, 2.22], [x0 + 0.54, 1.18, 3.58], STONE);
  addQuad(
    scene,
    [x0 + 0.445, 0.05, 2.55],
    [0, 0, 0.7],
    [0, 0.8, 0],
    [1, 0, 0],
    plain([0.03, 0.028, 0.027], 0.2)
  );
  addBox(scene, [x0 + 0.32, 1.3, 2.45], [x0 + 0.35, 2.15, 3.35], OAK);
  addQuad(scene, [x0 + 0.352, 1.35, 2.5], [0, 0, 0.8], [0, 0.75, 0], [1, 0, 0], {
    ...plain([0.04, 0.04, 0.04], 0),
    mirror: 0.85
  });
  for (const z of [2.1, 3.7])
    scene.edges.push({ kind: 'plumb', a: [x0 + 0.32, 1.3, z], b: [x0 + 0.32, h - 0.2, z] });
  addQuad(scene, [x0 + 0.2, 0.2, 0.4], [0, 0, 1.6], [0, 1.9, 0], [1, 0, 0], books(), { s: 12 });
  for (let y = 0.2; y < 2.2; y += 0.36) addBox(scene, [x0, y - 0.025, 0.4], [x0 + 0.28, y, 2], OAK);
  for (const z of [0.4, 2]) addBox(scene, [x0, 0.1, z - 0.02], [x0 + 0.28, 2.15, z + 0.02], OAK);
  // Sofa on the right, chair, table, rug.
  addQuad(
    scene,
    [-1.5, 0.012, 1.6],
    [2.6, 0, 0],
    [0, 0, 2.3],
    [0, 1, 0],
    plain([0.38, 0.16, 0.12], 0.3, 0.12)
  );
  addBox(scene, [x1 - 0.95, 0.12, 1.7], [x1 - 0.12, 0.42, 3.9], sofa);
  addBox(scene, [x1 - 0.32, 0.42, 1.7], [x1 - 0.1, 0.86, 3.9], sofa);
  for (const z of [1.5, 3.9]) addBox(scene, [x1 - 0.98, 0.1, z], [x1 - 0.1, 0.62, z + 0.2], sofa);
  for (const z of [1.8, 2.5, 3.2])
    addBox(scene, [x1 - 0.98, 0.42, z - 0.06], [x1 - 0.34, 0.53, z + 0.62], sofa);
  addBox(scene, [x1 - 0.5, 0.53, 1.9], [x1 - 0.34, 0.9, 2.3], plain([0.5, 0.33, 0.08], 0.1, 0.05));
  addBox(scene, [x1 - 0.5, 0.53, 3.3], [x1 - 0.34, 0.9, 3.7], plain([0.6, 0.58, 0.52], 0.1, 0.05));
  addTable(scene, [-0.55, 0, 2.2], [0.75, 0.4, 1.2], OAK);
  addBox(scene, [-0.4, 0.4, 2.4], [-0.12, 0.43, 2.8], plain([0.7, 0.69, 0.66], 0.05));
  addBox(scene, [-0.05, 0.4, 3], [0.07, 0.56, 3.12], plain([0.12, 0.25, 0.32], 0.1));
  // Lamps: one on a table between the windows, one standing by the sofa.
  addTable(scene, [-0.42, 0, d - 0.55], [0.84, 0.7, 0.4], OAK);
  const shade = (strength: number) => ({ ...plain([0.62, 0.55, 0.42], 0.03), glow: lit(strength) });
  addBox(scene, [-0.04, 0.7, d - 0.39], [0.04, 1.02, d - 0.31], plain([0.2, 0.3, 0.3], 0.1));
  addBox(scene, [-0.19, 1.02, d - 0.54], [0.19, 1.32, d - 0.16], shade(3.4));
  addBox(scene, [x1 - 0.4, 0, 4.35], [x1 - 0.37, 1.45, 4.38], DARK_METAL);
  addBox(scene, [x1 - 0.58, 1.45, 4.16], [x1 - 0.2, 1.8, 4.54], shade(4.2));
  addBox(scene, [x0 + 0.34, 1.18, 3.38], [x0 + 0.5, 1.2, 3.54], DARK_METAL);
  addBox(scene, [x0 + 0.36, 1.2, 3.4], [x0 + 0.5, 1.4, 3.54], shade(2.4));
  // Pictures on the right wall.
  for (const [z, tone] of [
    [2.1, [0.4, 0.44, 0.42]],
    [3, [0.5, 0.42, 0.3]]
  ] as const) {
    addBox(scene, [x1 - 0.03, 1.25, z], [x1, 1.85, z + 0.6], DARK_METAL);
    addQuad(
      scene,
      [x1 - 0.032, 1.3, z + 0.05],
      [0, 0, 0.5],
      [0, 0.5, 0],
      [-1, 0, 0],
      plain([...tone], 0.8, 0.25)
    );
  }
  // Outside: lawn, a fence, trees.
  addQuad(scene, [-60, -0.4, d + 0.4], [120, 0, 0], [0, 0, 120], [0, 1, 0], grass());
  addBox(scene, [-14, -0.4, d + 11], [14, 1.4, d + 11.1], boards([0.34, 0.25, 0.17], 0.14));
  addTree(scene, [-3.4, -0.4, d + 8], 5, 111, 800);
  addTree(scene, [2.2, -0.4, d + 14], 8, 112, 800);
  return scene;
}

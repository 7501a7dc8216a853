/** The stair of Saltmarsh Library: a straight flight with a steel balustrade beneath a tall window. */
import { boards, coursed, grass, plain } from '../trace/materials.ts';
import { type Scene, addBox, addQuad, addWall, emptyScene, normalise } from '../trace/scene.ts';
import { DARK_METAL, DAYLIGHT, OAK, WHITE_PAINT, addWindow } from './parts.ts';
import { addTree } from './tree.ts';

export function stairHall(): Scene {
  const light = {
    ...DAYLIGHT,
    sun: normalise([0.5, 0.55, 0.68]),
    sunColour: [3.6, 3.25, 2.75] as [number, number, number],
    zenith: [0.5, 0.7, 1.1] as [number, number, number],
    horizon: [1.4, 1.5, 1.7] as [number, number, number]
  };
  const scene = emptyScene(light, { bounces: 3, texel: 0.4, rays: 56 });
  const [x0, x1, h, d] = [-2.6, 2.6, 7.4, 8.4];
  const wall = plain([0.76, 0.75, 0.71], 0.02, 0.9);
  const slabs = coursed({
    unit: [0.42, 0.4, 0.36],
    joint: [0.2, 0.19, 0.17],
    width: 0.8,
    height: 0.8,
    jointWidth: 0.006,
    bond: 0,
    vary: 0.14,
    mirror: 0.03
  });
  const tread = boards([0.42, 0.27, 0.14], 0.3, 0.02);
  addQuad(scene, [x0, 0, -3], [x1 - x0, 0, 0], [0, 0, d + 3], [0, 1, 0], slabs);
  addQuad(scene, [x0, h, -3], [x1 - x0, 0, 0], [0, 0, d + 3], [0, -1, 0], plain([0.82, 0.81, 0.78], 0.01));
  addBox(scene, [x0 - 0.2, 0, -3], [x0, h, d], wall);
  addBox(scene, [x1, 0, -3], [x1 + 0.2, h, d], wall);
  addBox(scene, [x0, 0, -3.2], [x1, h, -3], wall);
  // End wall with a tall window and, below the landing, a door.
  const opening = { at: 1.2, sill: 3.5, width: 2.8, height: 3.2 };
  addWall(scene, [x0, 0, d], [1, 0, 0], x1 - x0, h, [0, 0, -1], wall, [opening], {
    depth: 0.3,
    material: WHITE_PAINT
  });
  addWindow(scene, [x0 + opening.at, opening.sill, d + 0.24], opening.width, opening.height, {
    bars: 3,
    rails: 3,
    frame: DARK_METAL,
    glazed: false,
    thickness: 0.07
  });
  addBox(
    scene,
    [x0 + opening.at - 0.06, opening.sill - 0.05, d - 0.12],
    [x0 + opening.at + opening.width + 0.06, opening.sill, d + 0.3],
    OAK
  );
  for (const x of [x0 + opening.at, x0 + opening.at + opening.width]) {
    scene.edges.push({ kind: 'plumb', a: [x, 3.6, d], b: [x, 6.6, d] });
  }
  // The flight rises along the right wall to a landing at the far end.
  const steps = 16;
  const rise = 2.72 / steps;
  const going = 0.28;
  const start = 1.7;
  const left = 0.35;
  const riser = plain([0.8, 0.79, 0.75], 0.02);
  for (let i = 0; i < steps; i++) {
    const z = start + i * going;
    const y = (i + 1) * rise;
    addBox(scene, [left, 0, z], [x1, y - 0.035, z + going], riser, { back: null, bottom: null });
    addBox(scene, [left - 0.02, y - 0.035, z - 0.025], [x1, y, z + going], tread);
  }
  const landing = start + steps * going;
  addBox(scene, [x0, 2.72 - 0.3, landing], [x1, 2.72, d], wall, { top: tread, bottom: riser });
  // Balustrade: bars, rails.
  const bar = (x: number, y0: number, z: number, tall: number): void =>
    addBox(scene, [x - 0.009, y0, z - 0.009], [x + 0.009, y0 + tall, z + 0.009], DARK_METAL);
  for (let i = 0; i < steps; i++) {
    for (const f of [0.25, 0.75]) {
      const z = start + (i + f) * going;
      bar(left + 0.05, (i + 1) * rise, z, 0.9 + rise * (f - 0.25));
    }
  }
  const slope = Math.hypot(going, rise);
  const [sz, sy] = [going / slope, rise / slope];
  const length = slope * steps;
  for (const [x, dx] of [[left + 0.02, 0.06]] as const) {
    const y0 = rise + 0.9 - rise * 0.25;
    addQuad(scene, [x, y0, start], [dx, 0, 0], [0, sy * length, sz * length], [0, 1, -0.3], OAK);
    for (const side of [x, x + dx]) {
      addQuad(
        scene,
        [side, y0 - 0.05, start],
        [0, sy * length, sz * length],
        [0, 0.05 * sz, -0.05 * sy],
        [side === x ? -1 : 1, 0, 0],
        OAK
      );
    }
  }
  addBox(scene, [left, 0, start - 0.12], [left + 0.09, 1.15, start - 0.03], OAK);
  scene.edges.push({ kind: 'plumb', a: [left, 0.1, start - 0.12], b: [left, 1.1, start - 0.12] });
  for (let x = x0 + 0.1; x < left; x += 0.12) bar(x, 2.72, landing + 0.05, 0.95);
  addBox(scene, [x0, 3.67, landing + 0.02], [left + 0.08, 3.72, landing + 0.08], OAK);
  addBox(scene, [left, 2.4, landing], [left + 0.09, 3.85, landing + 0.09], OAK);
  // Below the landing: a pair of doors; on the left wall a panel line, pictures and a bench.
  addBox(scene, [-2.05, 0, d - 0.1], [-0.35, 2.15, d - 0.02], OAK);
  addBox(scene, [-1.21, 0, d - 0.115], [-1.19, 2.15, d - 0.1], DARK_METAL);
  addBox(scene, [x0, 0, -3], [x0 + 0.025, 0.16, d], WHITE_PAINT);
  addBox(scene, [x0, 1.05, -3], [x0 + 0.03, 1.12, d], OAK);
  for (const [z, art] of [
    [2.3, [0.36, 0.24, 0.12]],
    [4.2, [0.14, 0.24, 0.3]]
  ] as const) {
    addBox(scene, [x0, 1.5, z], [x0 + 0.04, 2.7, z + 0.95], DARK_METAL);
    addQuad(
      scene,
      [x0 + 0.043, 1.58, z + 0.08],
      [0, 0, 0.79],
      [0, 1.04, 0],
      [1, 0, 0],
      plain([...art], 0.9, 0.35)
    );
    for (const edge of [z, z + 0.95])
      scene.edges.push({ kind: 'plumb', a: [x0 + 0.04, 1.52, edge], b: [x0 + 0.04, 2.68, edge] });
  }
  addBox(scene, [x0 + 0.06, 0.4, 2.2], [x0 + 0.5, 0.46, 4.4], OAK);
  for (const z of [2.3, 4.2]) addBox(scene, [x0 + 0.1, 0, z], [x0 + 0.46, 0.4, z + 0.07], DARK_METAL);
  scene.edges.push({
    kind: 'level',
    a: [x0 + opening.at, 3.5, d],
    b: [x0 + opening.at + opening.width, 3.5, d]
  });
  addQuad(scene, [-60, -0.4, d + 0.4], [120, 0, 0], [0, 0, 150], [0, 1, 0], grass());
  addTree(scene, [-1.5, -0.4, d + 9], 9, 31, 900);
  addTree(scene, [4.5, -0.4, d + 14], 11, 32, 900);
  return scene;
}

/** The kitchen of 14 Cooper's Rise: units along two walls, an island, a window over the sink. */
import { boards, coursed, grass, plain } from '../trace/materials.ts';
import { type Scene, type Vector, addBox, addQuad, addWall, emptyScene, normalise } from '../trace/scene.ts';
import { DARK_METAL, DAYLIGHT, OAK, WHITE_PAINT, addChair, addWindow } from './parts.ts';
import { addTree } from './tree.ts';

export function kitchen(): Scene {
  const light = {
    ...DAYLIGHT,
    sun: normalise([-0.45, 0.5, 0.74]),
    sunColour: [4.2, 3.75, 3.1] as Vector,
    zenith: [0.6, 0.8, 1.2] as Vector,
    horizon: [1.6, 1.7, 1.85] as Vector
  };
  const scene = emptyScene(light, { bounces: 3, texel: 0.26, rays: 56 });
  const [x0, x1, h, d] = [-2.4, 2.4, 2.5, 5.2];
  const wall = plain([0.72, 0.74, 0.7], 0.015, 0.8);
  const floor = coursed({
    unit: [0.5, 0.48, 0.44],
    joint: [0.3, 0.29, 0.27],
    width: 0.6,
    height: 0.6,
    jointWidth: 0.006,
    bond: 0,
    vary: 0.08,
    mirror: 0.03
  });
  const units = plain([0.1, 0.16, 0.17], 0.02);
  const top = plain([0.66, 0.65, 0.62], 0.14, 0.06);
  const metro = coursed({
    unit: [0.8, 0.8, 0.77],
    joint: [0.5, 0.5, 0.48],
    width: 0.2,
    height: 0.1,
    jointWidth: 0.004,
    vary: 0.06,
    mirror: 0.03
  });
  const steel = { ...plain([0.42, 0.43, 0.44], 0.03), mirror: 0.25 };
  addQuad(scene, [x0, 0, -1.5], [x1 - x0, 0, 0], [0, 0, d + 1.5], [0, 1, 0], floor);
  addQuad(scene, [x0, h, -1.5], [x1 - x0, 0, 0], [0, 0, d + 1.5], [0, -1, 0], plain([0.82, 0.82, 0.8], 0.01));
  addBox(scene, [x0 - 0.2, 0, -1.5], [x0, h, d], wall);
  addBox(scene, [x1, 0, -1.5], [x1 + 0.2, h, d], wall);
  addBox(scene, [x0, 0, -1.7], [x1, h, -1.5], wall);
  const opening = { at: 1.45, sill: 1.08, width: 1.9, height: 1.15 };
  addWall(scene, [x0, 0, d], [1, 0, 0], x1 - x0, h, [0, 0, -1], wall, [opening], {
    depth: 0.2,
    material: WHITE_PAINT
  });
  addWindow(scene, [x0 + opening.at, opening.sill, d + 0.14], opening.width, opening.height, {
    bars: 1,
    rails: 0,
    glazed: false,
    thickness: 0.07
  });
  for (const x of [x0 + opening.at, x0 + opening.at + opening.width])
    scene.edges.push({ kind: 'plumb', a: [x, 1.12, d], b: [x, 2.2, d] });
  // Base units along the far wall and the left wall, with doors and handles.
  const door = (a: Vector, b: Vector, axis: 'x' | 'z'): void => {
    addBox(scene, a, b, units);
    if (axis === 'x')
      addBox(
        scene,
        [(a[0] + b[0]) / 2 - 0.09, b[1] - 0.08, a[2] - 0.03],
        [(a[0] + b[0]) / 2 + 0.09, b[1] - 0.065, a[2] - 0.015],
        steel
      );
    else
      addBox(
        scene,
        [b[0] + 0.015, b[1] - 0.08, (a[2] + b[2]) / 2 - 0.09],
        [b[0] + 0.03, b[1] - 0.065, (a[2] + b[2]) / 2 + 0.09],
        steel
      );
  };
  addBox(scene, [x0, 0, d - 0.56], [x1, 0.86, d], units);
  for (let x = x0 + 0.62; x + 0.58 < x1; x += 0.595)
    door([x, 0.12, d - 0.58], [x + 0.587, 0.85, d - 0.56], 'x');
  addBox(scene, [x0, 0.86, d - 0.62], [x1, 0.9, d], top);
  addBox(scene, [x0, 0, 1.4], [x0 + 0.56, 0.86, d - 0.56], units);
  for (let z = 1.4; z + 0.58 < d - 0.6; z += 0.6)
    if (Math.abs(z - 2.6) > 0.1) door([x0 + 0.56, 0.12, z + 0.004], [x0 + 0.58, 0.85, z + 0.594], 'z');
  addBox(scene, [x0, 0.86, 1.38], [x0 + 0.62, 0.9, d - 0.62], top);
  addBox(scene, [x0 + 0.56, 0.16, 2.61], [x0 + 0.585, 0.82, 3.19], DARK_METAL);
  addBox(scene, [x0 + 0.6, 0.7, 2.68], [x0 + 0.62, 0.72, 3.12], steel);
  addBox(scene, [x0 + 0.08, 0.9, 2.62], [x0 + 0.56, 0.908, 3.18], plain([0.02, 0.02, 0.022], 0.05));
  // Tiles, wall units, hood, tall fridge.
  addQuad(scene, [x0 + 0.002, 0.9, 1.4], [0, 0, d - 1.4], [0, 0.55, 0], [1, 0, 0], metro);
  addQuad(scene, [x0, 0.9, d - 0.002], [opening.at, 0, 0], [0, 0.55, 0], [0, 0, -1], metro);
  addQuad(
    scene,
    [x0 + opening.at + opening.width, 0.9, d - 0.002],
    [x1 - x0 - opening.at - opening.width, 0, 0],
    [0, 0.55, 0],
    [0, 0, -1],
    metro
  );
  for (const [a, b] of [
    [1.4, 1.98],
    [2.0, 2.58],
    [3.22, 3.8],
    [3.82, 4.4]
  ]) {
    addBox(scene, [x0, 1.45, a], [x0 + 0.34, 2.2, b], units);
    addBox(scene, [x0 + 0.34, 1.5, b - 0.05], [x0 + 0.36, 1.68, b - 0.035], steel);
    for (const z of [a, b])
      scene.edges.push({ kind: 'plumb', a: [x0 + 0.34, 1.48, z], b: [x0 + 0.34, 2.17, z] });
  }
  addBox(scene, [x0, 1.5, 2.62], [x0 + 0.42, 1.62, 3.18], steel);
  addBox(scene, [x0, 1.62, 2.78], [x0 + 0.26, h, 3.02], steel);
  addBox(scene, [x1 - 0.66, 0, d - 1.3], [x1, 2.0, d - 0.62], steel);
  addBox(scene, [x1 - 0.68, 0.02, d - 1.295], [x1 - 0.66, 0.72, d - 0.625], steel);
  addBox(scene, [x1 - 0.68, 0.74, d - 1.295], [x1 - 0.66, 1.98, d - 0.625], steel);
  addBox(scene, [x1 - 0.71, 0.85, d - 1.24], [x1 - 0.69, 1.45, d - 1.22], DARK_METAL);
  scene.edges.push({ kind: 'plumb', a: [x1 - 0.68, 0.1, d - 1.3], b: [x1 - 0.68, 1.95, d - 1.3] });
  // Sink and tap.
  addBox(scene, [-0.5, 0.87, d - 0.52], [0.3, 0.905, d - 0.12], steel);
  addBox(scene, [-0.13, 0.9, d - 0.1], [-0.1, 1.2, d - 0.07], steel);
  addBox(scene, [-0.13, 1.18, d - 0.28], [-0.1, 1.2, d - 0.07], steel);
  // Island with stools, fruit bowl, pendants.
  const wood = boards([0.45, 0.3, 0.16], 0.16);
  addBox(scene, [-0.55, 0, 1.9], [1.15, 0.88, 2.75], units);
  addBox(scene, [-0.62, 0.88, 1.65], [1.22, 0.93, 2.82], wood);
  for (const x of [-0.4, 0.55]) addChair(scene, [x, 0.12, 1.15], 1, OAK);
  for (const x of [-0.4, 0.55])
    for (const dx of [0, 0.4])
      for (const dz of [0, 0.4])
        addBox(scene, [x + dx, 0, 1.15 + dz], [x + dx + 0.035, 0.12, 1.185 + dz], OAK);
  for (const [x, c] of [
    [0.2, [0.5, 0.1, 0.03]],
    [0.3, [0.55, 0.35, 0.04]],
    [0.39, [0.2, 0.35, 0.05]]
  ] as const)
    addBox(scene, [x, 0.93, 2.3], [x + 0.08, 1.005, 2.38], plain([...c], 0.1));
  for (const x of [-0.1, 0.7]) {
    addBox(scene, [x - 0.004, 1.85, 2.24], [x + 0.004, h, 2.248], DARK_METAL);
    addBox(scene, [x - 0.12, 1.62, 2.12], [x + 0.12, 1.85, 2.36], {
      ...plain([0.6, 0.55, 0.45], 0.02),
      glow: [0.5, 0.42, 0.28]
    });
  }
  addBox(scene, [x1 - 0.03, 0, -0.6], [x1, 2.1, 0.25], WHITE_PAINT);
  addBox(scene, [x1 - 0.02, 0, -1.5], [x1, 0.1, d - 1.3], WHITE_PAINT);
  addBox(scene, [x1 - 0.03, 1.2, 1.2], [x1, 1.85, 2.1], OAK);
  addQuad(
    scene,
    [x1 - 0.032, 1.25, 1.25],
    [0, 0, 0.8],
    [0, 0.55, 0],
    [-1, 0, 0],
    plain([0.35, 0.4, 0.36], 0.9, 0.3)
  );
  scene.edges.push({ kind: 'level', a: [x0 + 0.6, 0.9, d - 0.62], b: [x1 - 0.7, 0.9, d - 0.62] });
  addQuad(scene, [-60, -0.3, d + 0.4], [120, 0, 0], [0, 0, 120], [0, 1, 0], grass());
  addBox(scene, [-12, -0.3, d + 9], [12, 1.5, d + 9.1], boards([0.3, 0.22, 0.15], 0.14));
  addTree(scene, [-1.8, -0.3, d + 7], 4.5, 81, 900);
  addTree(scene, [2.6, -0.3, d + 13], 8, 82, 900);
  return scene;
}

/** The green across the road from Cooper's Rise: grass and old trees, and nothing that was built plumb. */
import { grass, plain } from '../trace/materials.ts';
import { type Scene, addQuad, emptyScene, normalise } from '../trace/scene.ts';
import { DAYLIGHT } from './parts.ts';
import { addTree } from './tree.ts';

export function villageGreen(): Scene {
  const light = { ...DAYLIGHT, sun: normalise([0.5, 0.62, -0.6]) };
  const scene = emptyScene(light, { bounces: 1, texel: 0.5, rays: 40 });
  addQuad(scene, [-300, 0, -60], [600, 0, 0], [0, 0, 400], [0, 1, 0], grass(), { s: -300, t: -60 });
  // A thick hedge behind: crowns alone, so that no trunk and no clean horizon is left.
  for (let i = 0; i < 46; i++) {
    const height = 7 + (i % 4) * 1.4;
    addTree(scene, [-52 + i * 2.3, -height * 0.55, 30 + (i % 3) * 2], height, 500 + i, 700);
  }
  addTree(scene, [-5.5, 0, 4], 8.5, 540, 3600, 1.9);
  addTree(scene, [6.2, 0, 9], 10.5, 541, 3600, -2.1);
  addTree(scene, [1.2, 0, 19], 9, 542, 3000, 1.2);
  for (let i = 0; i < 9; i++) addTree(scene, [-9 + i * 2.4, -0.4, 1 + ((i * 5) % 4)], 1.1, 560 + i, 200, 0.2);
  addQuad(scene, [-30, 0.01, -7], [60, 0, 0], [0, 0, 0.9], [0, 1, 0], plain([0.32, 0.27, 0.2], 0.3, 0.2));
  return scene;
}

/** The truth about white: the light that falls on what a picture shows. */
import { type Point, sensorToField } from '../../core/math/frame-geometry.ts';
import { undistort } from '../../core/optics/lens-model.ts';
import { rotationFromAngles } from '../../core/math/rotation.ts';
import { apply } from '../../core/math/matrix3.ts';
import { type CameraSetup, setupLens } from '../camera/capture.ts';
import { type Hit, intersect } from './bvh.ts';
import { lookUp, sunlight } from './light-map.ts';
import type { Colour } from './materials.ts';
import type { LitScene } from './shade.ts';

const hit: Hit = { quad: 0, distance: 0, s: 0, t: 0 };

/** Light (linear sRGB) that a white card has, held at what is seen at places of a grid; the sky and lamps have none. */
export function lightSeen({ scene, bvh, maps }: LitScene, setup: CameraSetup, columns = 60): Colour[] {
  const { focal, model } = setupLens(setup);
  const toWorld = rotationFromAngles(setup.angles);
  const { width, height } = setup.size;
  const step = width / columns;
  const seen: Colour[] = [];
  for (let y = step / 2; y < height; y += step)
    for (let x = step / 2; x < width; x += step) {
      const at: Point = undistort(sensorToField([x, y], setup.size), model);
      const [dx, dy, dz] = apply(toWorld, [at[0] / focal, at[1] / focal, 1]);
      if (!intersect(bvh, ...setup.position, dx, -dy, dz, hit, 1e9, false)) continue;
      const quad = scene.quads[hit.quad];
      if (quad.material.glow) continue;
      const light: Colour = [0, 0, 0];
      lookUp(maps[hit.quad], quad, hit.s, hit.t, light);
      const facing = dx * quad.normal[0] - dy * quad.normal[1] + dz * quad.normal[2];
      const n = quad.normal.map((c) => (facing > 0 ? -c : c));
      const [px, py, pz] = [dx, -dy, dz].map((d, i) => setup.position[i] + d * hit.distance);
      const sun = sunlight(scene, bvh, px, py, pz, n);
      seen.push(light.map((value, c) => value + sun * scene.light.sunColour[c]) as Colour);
    }
  return seen;
}

/** Radiance along a ray: sky, or a lit surface with its mirrored light. */
import { type Bvh, type Hit, intersect } from './bvh.ts';
import { type LightMap, isDark, lookUp, sunlight } from './light-map.ts';
import type { Colour } from './materials.ts';
import type { Scene } from './scene.ts';
import { skyRadiance } from './sky.ts';

export interface LitScene {
  scene: Scene;
  bvh: Bvh;
  maps: LightMap[];
}

const LIFT = 1e-4;
const hit: Hit = { quad: 0, distance: 0, s: 0, t: 0 };
const light: Colour = [0, 0, 0];

/**
 * Writes the radiance seen from a point in a (unit) direction to `out`, and returns the rectangle seen, or -1
 * for sky. `pixelAngle` is the angle of a pixel in radians, for the detail of textures.
 */
export function radiance(
  lit: LitScene,
  ox: number,
  oy: number,
  oz: number,
  dx: number,
  dy: number,
  dz: number,
  pixelAngle: number,
  out: Colour,
  depth = 0
): number {
  const { scene, bvh, maps } = lit;
  if (!intersect(bvh, ox, oy, oz, dx, dy, dz, hit, 1e9, false)) {
    skyRadiance(scene.light, dx, dy, dz, out, true);
    return -1;
  }
  const { quad: index, distance, s, t } = hit;
  const quad = scene.quads[index];
  const { normal: n, material } = quad;
  const cosine = -(dx * n[0] + dy * n[1] + dz * n[2]);
  const flip = cosine < 0 ? -1 : 1;
  const facing = cosine * flip;
  const footprint = (distance * pixelAngle) / Math.sqrt(Math.max(0.05, facing));
  const albedo = material.albedo(s + quad.s, t + quad.t, footprint);
  const x = ox + dx * distance;
  const y = oy + dy * distance;
  const z = oz + dz * distance;
  lookUp(maps[index], quad, s, t, light);
  const [lightR, lightG, lightB] = light;
  const sun = isDark(maps[index], quad, s, t)
    ? 0
    : sunlight(scene, bvh, x, y, z, flip > 0 ? n : [-n[0], -n[1], -n[2]]);
  const [sunR, sunG, sunB] = scene.light.sunColour;
  let r = albedo[0] * (lightR + sun * sunR);
  let g = albedo[1] * (lightG + sun * sunG);
  let b = albedo[2] * (lightB + sun * sunB);
  const glow = material.shine?.(s + quad.s, t + quad.t, footprint) ?? material.glow;
  if (glow) {
    r += glow[0];
    g += glow[1];
    b += glow[2];
  }
  if (material.mirror && depth === 0) {
    // Schlick's approximation of Fresnel reflection.
    const share = material.mirror + (1 - material.mirror) * (1 - facing) ** 5 * 0.8;
    const k = 2 * facing * flip;
    radiance(
      lit,
      x + n[0] * LIFT * flip,
      y + n[1] * LIFT * flip,
      z + n[2] * LIFT * flip,
      dx + n[0] * k,
      dy + n[1] * k,
      dz + n[2] * k,
      pixelAngle * 2,
      out,
      depth + 1
    );
    r = r * (1 - share) + out[0] * share;
    g = g * (1 - share) + out[1] * share;
    b = b * (1 - share) + out[2] * share;
  }
  const { air } = scene.light;
  // What is left of the light after the way through the air (Koschmieder 1924).
  const left = air ? Math.exp(-air.perMetre * distance) : 1;
  out[0] = r * left;
  out[1] = g * left;
  out[2] = b * left;
  if (air) for (let c = 0; c < 3; c++) out[c] += air.colour[c] * (1 - left);
  return index;
}

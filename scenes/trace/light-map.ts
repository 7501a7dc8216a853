/**
 * Indirect light: each rectangle carries a coarse grid of irradiance from sky and bounced light, gathered by
 * casting rays over the hemisphere, once per bounce.
 */
import { seededRandom } from '../../core/math/random.ts';
import { type Bvh, type Hit, intersect } from './bvh.ts';
import type { Colour } from './materials.ts';
import type { Quad, Scene } from './scene.ts';
import { skyRadiance } from './sky.ts';

export interface LightMap {
  columns: number;
  rows: number;
  /** Irradiance over π (so that reflectance times it is radiance), three values a texel. */
  values: Float32Array;
  /** 1 where a texel and its neighbours get no sun at all, so that no shadow ray is needed. */
  dark: Uint8Array;
}

const MOST = 64;
const LIFT = 1e-4;
/** Few rays leave blotches; light gathered from a whole hemisphere has no finer detail to lose. */
const SMOOTHINGS = 3;

export function sunlight(
  scene: Scene,
  bvh: Bvh,
  x: number,
  y: number,
  z: number,
  n: readonly number[]
): number {
  const [sx, sy, sz] = scene.light.sun;
  const cosine = n[0] * sx + n[1] * sy + n[2] * sz;
  if (cosine <= 0) return 0;
  return intersect(bvh, x + n[0] * LIFT, y + n[1] * LIFT, z + n[2] * LIFT, sx, sy, sz, shadowHit, 1e9, true)
    ? 0
    : cosine;
}
const shadowHit: Hit = { quad: 0, distance: 0, s: 0, t: 0 };

/** Light of a map at a place on its rectangle, bilinear between texel centres. */
export function lookUp(map: LightMap, quad: Quad, s: number, t: number, out: Colour): void {
  const { columns, rows, values } = map;
  const x = Math.max(0, Math.min(columns - 1, (s / quad.lengthU) * columns - 0.5));
  const y = Math.max(0, Math.min(rows - 1, (t / quad.lengthV) * rows - 0.5));
  const x0 = x | 0;
  const y0 = y | 0;
  const fx = x - x0;
  const fy = y - y0;
  const right = x0 + 1 < columns ? 3 : 0;
  const below = y0 + 1 < rows ? columns * 3 : 0;
  const at = (y0 * columns + x0) * 3;
  for (let c = 0; c < 3; c++) {
    out[c] =
      (values[at + c] * (1 - fx) + values[at + c + right] * fx) * (1 - fy) +
      (values[at + c + below] * (1 - fx) + values[at + c + below + right] * fx) * fy;
  }
}

function smooth(map: LightMap): void {
  const { columns, rows, values } = map;
  const from = values.slice();
  for (let y = 0; y < rows; y++) {
    for (let x = 0; x < columns; x++) {
      for (let c = 0; c < 3; c++) {
        let sum = 0;
        let total = 0;
        for (let j = -1; j <= 1; j++) {
          for (let i = -1; i <= 1; i++) {
            if (x + i < 0 || y + j < 0 || x + i >= columns || y + j >= rows) continue;
            const w = (i === 0 ? 2 : 1) * (j === 0 ? 2 : 1);
            sum += w * from[((y + j) * columns + x + i) * 3 + c];
            total += w;
          }
        }
        values[(y * columns + x) * 3 + c] = sum / total;
      }
    }
  }
}

export function bakeLight(scene: Scene, bvh: Bvh, seed: number): LightMap[] {
  const random = seededRandom(seed);
  const { quads, texel, rays, bounces, light } = scene;
  const size = (length: number, most = MOST): number =>
    Math.max(1, Math.min(most, Math.ceil(length / texel)));
  let maps: LightMap[] = quads.map((q) => {
    const columns = size(q.lengthU, q.texels);
    const rows = size(q.lengthV, q.texels);
    return {
      columns,
      rows,
      values: new Float32Array(columns * rows * 3),
      dark: new Uint8Array(columns * rows)
    };
  });
  const hit: Hit = { quad: 0, distance: 0, s: 0, t: 0 };
  const found: Colour = [0, 0, 0];
  for (let bounce = 0; bounce < bounces; bounce++) {
    const next = maps.map((map) => ({ ...map, values: new Float32Array(map.values.length) }));
    quads.forEach((quad, index) => {
      const map = next[index];
      const { normal: n, u, v } = quad;
      // A single leaf or bar needs less care than a wall.
      const cast = map.columns * map.rows <= 2 ? Math.ceil(rays / 4) : rays;
      for (let row = 0; row < map.rows; row++) {
        for (let column = 0; column < map.columns; column++) {
          let [sumR, sumG, sumB] = [0, 0, 0];
          for (let ray = 0; ray < cast; ray++) {
            const s = ((column + random()) / map.columns) * quad.lengthU;
            const t = ((row + random()) / map.rows) * quad.lengthV;
            const x = quad.origin[0] + u[0] * s + v[0] * t + n[0] * LIFT;
            const y = quad.origin[1] + u[1] * s + v[1] * t + n[1] * LIFT;
            const z = quad.origin[2] + u[2] * s + v[2] * t + n[2] * LIFT;
            // Cosine-weighted direction, stratified by ray number.
            const r = Math.sqrt((ray + random()) / cast);
            const turn = 2 * Math.PI * (ray * 0.61803398875 + random() * 0.1);
            const a = r * Math.cos(turn);
            const b = r * Math.sin(turn);
            const c = Math.sqrt(Math.max(0, 1 - r * r));
            const dx = u[0] * a + v[0] * b + n[0] * c;
            const dy = u[1] * a + v[1] * b + n[1] * c;
            const dz = u[2] * a + v[2] * b + n[2] * c;
            if (!intersect(bvh, x, y, z, dx, dy, dz, hit, 1e9, false)) {
              skyRadiance(light, dx, dy, dz, found, false);
              sumR += found[0];
              sumG += found[1];
              sumB += found[2];
              continue;
            }
            const other = quads[hit.quad];
            const m = other.material;
            lookUp(maps[hit.quad], other, hit.s, hit.t, found);
            const facing = dx * other.normal[0] + dy * other.normal[1] + dz * other.normal[2];
            const sun =
              facing < 0
                ? sunlight(
                    scene,
                    bvh,
                    x + dx * hit.distance,
                    y + dy * hit.distance,
                    z + dz * hit.distance,
                    other.normal
                  )
                : 0;
            const [glowR, glowG, glowB] = m.glow ?? [0, 0, 0];
            sumR += m.mean[0] * (found[0] + sun * light.sunColour[0]) + glowR;
            sumG += m.mean[1] * (found[1] + sun * light.sunColour[1]) + glowG;
            sumB += m.mean[2] * (found[2] + sun * light.sunColour[2]) + glowB;
          }
          const at = (row * map.columns + column) * 3;
          map.values[at] = sumR / cast;
          map.values[at + 1] = sumG / cast;
          map.values[at + 2] = sumB / cast;
        }
      }
      for (let i = 0; i < SMOOTHINGS; i++) smooth(map);
    });
    maps = next;
  }
  quads.forEach((quad, index) => markDark(scene, bvh, quad, maps[index], random));
  return maps;
}

const SUN_TESTS = 8;

function markDark(scene: Scene, bvh: Bvh, quad: Quad, map: LightMap, random: () => number): void {
  const { columns, rows, dark } = map;
  const { origin, u, v, lengthU, lengthV, normal } = quad;
  const [sx, sy, sz] = scene.light.sun;
  // Seen from behind, the other side is lit: its normal is the one that faces the sun.
  const n = normal[0] * sx + normal[1] * sy + normal[2] * sz > 0 ? normal : normal.map((c) => -c);
  const unlit = new Uint8Array(columns * rows);
  for (let row = 0; row < rows; row++) {
    for (let column = 0; column < columns; column++) {
      let lit = false;
      for (let i = 0; i < SUN_TESTS && !lit; i++) {
        const s = ((column + random()) / columns) * lengthU;
        const t = ((row + random()) / rows) * lengthV;
        const [x, y, z] = [0, 1, 2].map((c) => origin[c] + u[c] * s + v[c] * t);
        lit = sunlight(scene, bvh, x, y, z, n) > 0;
      }
      unlit[row * columns + column] = lit ? 0 : 1;
    }
  }
  for (let row = 0; row < rows; row++) {
    for (let column = 0; column < columns; column++) {
      let all = 1;
      for (let j = Math.max(0, row - 1); j <= Math.min(rows - 1, row + 1); j++) {
        for (let i = Math.max(0, column - 1); i <= Math.min(columns - 1, column + 1); i++)
          all &= unlit[j * columns + i];
      }
      dark[row * columns + column] = all;
    }
  }
}

/** True when no sun reaches a place on a rectangle, as far as the light map knows. */
export function isDark(map: LightMap, quad: Quad, s: number, t: number): boolean {
  const column = Math.min(map.columns - 1, ((s / quad.lengthU) * map.columns) | 0);
  const row = Math.min(map.rows - 1, ((t / quad.lengthV) * map.rows) | 0);
  return map.dark[row * map.columns + column] === 1;
}

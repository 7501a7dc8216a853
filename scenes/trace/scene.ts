/**
 * A scene of flat rectangles under sun and sky. World axes: x right, y up, z away from the camera's side.
 */
import type { Colour, Material } from './materials.ts';

export type Vector = [number, number, number];

export interface Quad {
  origin: Vector;
  /** Unit directions of the sides; the normal (front) is side × up with the sign stored in `normal`. */
  u: Vector;
  v: Vector;
  normal: Vector;
  lengthU: number;
  lengthV: number;
  /** Where the texture starts, so that pieces of one wall join. */
  s: number;
  t: number;
  material: Material;
  /** Most texels of light along a side: few are enough far away. */
  texels?: number;
  /** Which places of it are there, in metres along its sides; all of them when it is not given. */
  covers?: (s: number, t: number) => boolean;
}

export interface Light {
  /** Unit direction towards the sun. */
  sun: Vector;
  sunColour: Colour;
  /** Radiance of the sky overhead and at the horizon. */
  zenith: Colour;
  horizon: Colour;
  /** Share of the sky under cloud, 0..1. */
  cloud: number;
  /** Air that is not clear: the share of light that it scatters on each metre, and the light that it adds in its place. */
  air?: { perMetre: number; colour: Colour };
}

/** A straight edge of the building with known truth. */
export interface TrueEdge {
  kind: 'plumb' | 'level';
  a: Vector;
  b: Vector;
}

export interface Scene {
  quads: Quad[];
  light: Light;
  edges: TrueEdge[];
  /** How often light is bounced, and the size of light map texels in metres. */
  bounces: number;
  texel: number;
  /** Rays per texel and bounce. */
  rays: number;
}

export const normalise = ([x, y, z]: Vector): Vector => {
  const l = Math.hypot(x, y, z);
  return [x / l, y / l, z / l];
};
export const along = (p: Vector, d: Vector, k: number): Vector => [
  p[0] + d[0] * k,
  p[1] + d[1] * k,
  p[2] + d[2] * k
];
export const crossProduct = (a: Vector, b: Vector): Vector => [
  a[1] * b[2] - a[2] * b[1],
  a[2] * b[0] - a[0] * b[2],
  a[0] * b[1] - a[1] * b[0]
];

export function emptyScene(
  light: Light,
  options: Partial<Pick<Scene, 'bounces' | 'texel' | 'rays'>> = {}
): Scene {
  return { quads: [], light, edges: [], bounces: 2, texel: 0.4, rays: 64, ...options };
}

/** A rectangle from a corner and two side vectors (at right angles); its front is where `front` points. */
export function addQuad(
  scene: Scene,
  origin: Vector,
  sideU: Vector,
  sideV: Vector,
  front: Vector,
  material: Material,
  texture: Partial<Pick<Quad, 's' | 't' | 'texels' | 'covers'>> = {}
): void {
  const lengthU = Math.hypot(...sideU);
  const lengthV = Math.hypot(...sideV);
  if (lengthU < 1e-6 || lengthV < 1e-6) return;
  const u = normalise(sideU);
  const v = normalise(sideV);
  let normal = crossProduct(u, v);
  if (normal[0] * front[0] + normal[1] * front[1] + normal[2] * front[2] < 0) {
    normal = [-normal[0], -normal[1], -normal[2]];
  }
  scene.quads.push({
    origin,
    u,
    v,
    normal: normalise(normal),
    lengthU,
    lengthV,
    s: texture.s ?? 0,
    t: texture.t ?? 0,
    texels: texture.texels,
    covers: texture.covers,
    material
  });
}

export type Face = 'left' | 'right' | 'top' | 'bottom' | 'front' | 'back';

/** An upright box from its least to its greatest corner; faces may be left out or have their own material. */
export function addBox(
  scene: Scene,
  [x0, y0, z0]: Vector,
  [x1, y1, z1]: Vector,
  material: Material,
  faces: Partial<Record<Face, Material | null>> = {},
  texels?: number
): void {
  const [w, h, d] = [x1 - x0, y1 - y0, z1 - z0];
  const face = (name: Face): Material | null => (faces[name] === undefined ? material : faces[name]);
  const put = (name: Face, origin: Vector, u: Vector, v: Vector, n: Vector, s: number, t: number): void => {
    const m = face(name);
    if (m) addQuad(scene, origin, u, v, n, m, { s, t, texels });
  };
  put('front', [x0, y0, z0], [w, 0, 0], [0, h, 0], [0, 0, -1], x0, y0);
  put('back', [x0, y0, z1], [w, 0, 0], [0, h, 0], [0, 0, 1], x0, y0);
  put('left', [x0, y0, z0], [0, 0, d], [0, h, 0], [-1, 0, 0], z0, y0);
  put('right', [x1, y0, z0], [0, 0, d], [0, h, 0], [1, 0, 0], z0, y0);
  put('bottom', [x0, y0, z0], [w, 0, 0], [0, 0, d], [0, -1, 0], x0, z0);
  put('top', [x0, y1, z0], [w, 0, 0], [0, 0, d], [0, 1, 0], x0, z0);
}

export interface Opening {
  /** Lower corner along the wall and up, and size, in metres. */
  at: number;
  sill: number;
  width: number;
  height: number;
}

/**
 * A wall with openings: cells between the openings' edges are filled, reveals of the given depth line them.
 * `along` runs along the wall, `front` is its outer normal.
 */
export function addWall(
  scene: Scene,
  origin: Vector,
  alongWall: Vector,
  length: number,
  height: number,
  front: Vector,
  material: Material,
  openings: readonly Opening[],
  reveal: { depth: number; material: Material }
): void {
  const rows = [...new Set([0, height, ...openings.flatMap((o) => [o.sill, o.sill + o.height])])].sort(
    (a, b) => a - b
  );
  const up: Vector = [0, 1, 0];
  const place = (s: number, t: number): Vector => along(along(origin, alongWall, s), up, t);
  const scaled = (d: Vector, k: number): Vector => [d[0] * k, d[1] * k, d[2] * k];
  for (let i = 0; i + 1 < rows.length; i++) {
    const [low, high] = [rows[i], rows[i + 1]];
    const holes = openings
      .filter((o) => o.sill < high - 1e-6 && o.sill + o.height > low + 1e-6)
      .sort((a, b) => a.at - b.at);
    let start = 0;
    for (const hole of [...holes, { at: length, width: 0 }]) {
      if (hole.at > start) {
        addQuad(
          scene,
          place(start, low),
          scaled(alongWall, hole.at - start),
          scaled(up, high - low),
          front,
          material,
          {
            s: start,
            t: low
          }
        );
      }
      start = hole.at + hole.width;
    }
  }
  const inward = scaled(front, -reveal.depth);
  for (const o of openings) {
    const a = place(o.at, o.sill);
    const b = place(o.at + o.width, o.sill);
    const c = place(o.at, o.sill + o.height);
    addQuad(scene, a, scaled(up, o.height), inward, alongWall, reveal.material);
    addQuad(scene, b, scaled(up, o.height), inward, scaled(alongWall, -1), reveal.material);
    addQuad(scene, a, scaled(alongWall, o.width), inward, up, reveal.material);
    addQuad(scene, c, scaled(alongWall, o.width), inward, [0, -1, 0], reveal.material);
  }
}

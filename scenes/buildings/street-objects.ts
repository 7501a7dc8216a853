/** What stands and hangs in the way of a picture: a bin on the pavement, a cable across the sky. */
import { plain } from '../trace/materials.ts';
import { type Scene, type Vector, addBox, addQuad, normalise } from '../trace/scene.ts';

const BODY = plain([0.035, 0.06, 0.045], 0.08);
const LID = plain([0.06, 0.1, 0.07], 0.05);
const WHEEL = plain([0.02, 0.02, 0.021], 0.03);

/** A wheeled bin on its foot, a metre high, facing -z. */
export function addBin(scene: Scene, [x, y, z]: Vector): void {
  addBox(scene, [x - 0.27, y + 0.06, z - 0.3], [x + 0.27, y + 0.94, z + 0.32], BODY);
  addBox(scene, [x - 0.3, y + 0.94, z - 0.34], [x + 0.3, y + 1.02, z + 0.38], LID);
  addBox(scene, [x - 0.3, y + 0.86, z + 0.34], [x + 0.3, y + 0.9, z + 0.42], BODY);
  for (const side of [-1, 1])
    addBox(scene, [x + side * 0.29 - 0.03, y, z + 0.16], [x + side * 0.29 + 0.03, y + 0.2, z + 0.36], WHEEL);
}

const PIECES = 24;
const RADIUS = 0.013;

/** A cable between two points, `sag` metres lower in the middle than a straight one; it faces -z. */
export function addCable(scene: Scene, from: Vector, to: Vector, sag: number): void {
  const at = (t: number): Vector => [
    from[0] + (to[0] - from[0]) * t,
    from[1] + (to[1] - from[1]) * t - 4 * sag * t * (1 - t),
    from[2] + (to[2] - from[2]) * t
  ];
  for (let i = 0; i < PIECES; i++) {
    const [a, b] = [at(i / PIECES), at((i + 1) / PIECES)];
    const run: Vector = [b[0] - a[0], b[1] - a[1], b[2] - a[2]];
    // Square to its run: quads have right angles.
    const up = normalise([-run[1], run[0], 0]);
    const across: Vector = [up[0] * 2 * RADIUS, up[1] * 2 * RADIUS, 0];
    const start: Vector = [a[0] - across[0] / 2, a[1] - across[1] / 2, a[2]];
    addQuad(scene, start, run, across, [0, 0, -1], WHEEL);
  }
}

/** A tree with trunk, boughs, and sprays of small leaves on twigs, between which one sees what lies behind. */
import { seededRandom } from '../../core/math/random.ts';
import { plain } from '../trace/materials.ts';
import { type Scene, type Vector, addBox, addQuad, along, crossProduct, normalise } from '../trace/scene.ts';

const BARK = plain([0.13, 0.1, 0.075], 0.3, 0.1);
const GREENS = [0, 1, 2].map((i) => plain([0.045 + 0.028 * i, 0.095 + 0.035 * i, 0.022 + 0.008 * i], 0.1));

/** Leaves along a twig, in turn on its two sides, and one ahead. */
const LEAVES = 9;
/** Half length and half width of a leaf, and half the thickness of a twig, as shares of the spray. */
const LEAF = { length: 0.23, width: 0.066 };
const TWIG = 0.011;
/** Leaves lean forward from the twig by this angle. */
const [FORWARD, ASIDE] = [Math.cos(0.95), Math.sin(0.95)];

/** Whether a place of a spray (0..1 along its twig, and across it) is leaf or twig. */
export function isOnSpray(along: number, across: number): boolean {
  const y = across - 0.5;
  if (along < 0.6 && Math.abs(y) < TWIG) return true;
  for (let i = 0; i < LEAVES; i++) {
    const ahead = i === LEAVES - 1;
    const base = 0.04 + (0.52 * i) / (LEAVES - 1);
    const cos = ahead ? 1 : FORWARD;
    const sin = ahead ? 0 : i % 2 === 0 ? ASIDE : -ASIDE;
    // A place along the leaf, -1 at its stalk to 1 at its tip, and aside of its rib.
    const u = ((along - base) * cos + y * sin) / LEAF.length - 1;
    const v = (y * cos - (along - base) * sin) / LEAF.width;
    if (Math.abs(v) < 1 - u * u) return true;
  }
  return false;
}

/** A bar between two places: two strips that cross, so that it is seen from everywhere. */
function addBough(scene: Scene, from: Vector, to: Vector, thickness: number): void {
  const side: Vector = [to[0] - from[0], to[1] - from[1], to[2] - from[2]];
  const direction = normalise(side);
  const first = normalise(crossProduct(direction, Math.abs(direction[1]) < 0.9 ? [0, 1, 0] : [1, 0, 0]));
  for (const across of [first, crossProduct(direction, first)]) {
    const start = along(from, across, -thickness / 2);
    const width: Vector = [across[0] * thickness, across[1] * thickness, across[2] * thickness];
    addQuad(scene, start, side, width, crossProduct(side, width), BARK, { texels: 4 });
  }
}

function addTrunk(scene: Scene, [x, y, z]: Vector, height: number, lean: number): void {
  const w = height * 0.018;
  if (lean === 0) {
    addBox(scene, [x - w, y, z - w], [x + w, y + height * 0.6, z + w], BARK);
    return;
  }
  const up: Vector = [lean * 0.6, height * 0.6, 0];
  // Square to the trunk: quads have right angles.
  const across = normalise([height, -lean, 0]);
  const [cx, cy] = [across[0] * w, across[1] * w];
  for (const side of [-1, 1]) {
    addQuad(scene, [x - cx, y - cy, z + side * w], [2 * cx, 2 * cy, 0], up, [0, 0, side], BARK);
    addQuad(scene, [x + side * cx, y + side * cy, z - w], [0, 0, 2 * w], up, [side * cx, side * cy, 0], BARK);
  }
}

/** A spray that begins at a place of its twig and points somewhat outward. */
function addSpray(scene: Scene, start: Vector, outward: Vector, size: number, random: () => number): void {
  const some = (): Vector => [random() - 0.5, random() - 0.5, random() - 0.5];
  const u = normalise(along(some(), outward, 0.6));
  const v = normalise(crossProduct(u, some()));
  addQuad(
    scene,
    along(start, v, -size / 2),
    [u[0] * size, u[1] * size, u[2] * size],
    [v[0] * size, v[1] * size, v[2] * size],
    [outward[0], Math.abs(outward[1]) + 0.3, outward[2]],
    GREENS[Math.floor(random() * GREENS.length)],
    { covers: (s, t) => isOnSpray(s / size, t / size), texels: 1 }
  );
}

/** Twigs of a bough's end. */
const TWIGS = 12;

/** A tree on its foot, with about so many sprays; `lean` is how far its top stands to the right of it. */
export function addTree(
  scene: Scene,
  foot: Vector,
  height: number,
  seed: number,
  sprays = 2400,
  lean = 0
): void {
  const [x, y, z] = foot;
  const random = seededRandom(seed);
  // Few are larger, so that they cover as much.
  const size = (1.2 * height) / Math.sqrt(sprays);
  addTrunk(scene, foot, height, lean);
  const ends = Array.from({ length: 14 }, (): Vector => {
    const a = random() * 2 * Math.PI;
    const r = height * 0.23 * Math.sqrt(random());
    const up = 0.45 + 0.45 * random();
    return [x + lean * up + r * Math.cos(a), y + height * up, z + r * Math.sin(a)];
  });
  for (const end of ends) {
    const up = Math.min(0.58, (0.75 * (end[1] - y)) / height);
    addBough(scene, [x + lean * up, y + height * up, z], end, height * 0.007);
    for (let i = 0; i < TWIGS; i++) {
      const outward = normalise([random() - 0.5, random() - 0.4, random() - 0.5]);
      const reach = height * (0.1 + 0.05 * random());
      addBough(scene, end, along(end, outward, reach), height * 0.0018);
      for (let j = 0; j < sprays / (ends.length * TWIGS); j++)
        addSpray(
          scene,
          along(end, outward, reach * Math.sqrt(random())),
          outward,
          size * (0.75 + 0.5 * random()),
          random
        );
    }
  }
}

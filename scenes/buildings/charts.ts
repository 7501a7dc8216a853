/** What lenses are measured on: a chessboard on a wall under an even sky, and an evenly lit screen. */
import { chessboard, plain } from '../trace/materials.ts';
import { type Scene, addBox, addQuad, emptyScene, normalise } from '../trace/scene.ts';

/** Squares of the board across and up, and their side in metres. */
export const BOARD = { columns: 13, rows: 9, square: 0.12 };

const OVERCAST = {
  sun: normalise([0, 1, -0.2]),
  sunColour: [0, 0, 0] as [number, number, number],
  zenith: [1, 1, 1] as [number, number, number],
  horizon: [1, 1, 1] as [number, number, number],
  cloud: 0
};

/** The board hangs in the plane z = 0, facing -z, its middle at the origin. */
export function chartWall(): Scene {
  const scene = emptyScene(OVERCAST, { bounces: 1, texel: 0.5, rays: 40 });
  const { columns, rows, square } = BOARD;
  const [w, h] = [columns * square, rows * square];
  addQuad(scene, [-6, -3, 0.05], [12, 0, 0], [0, 6, 0], [0, 0, -1], plain([0.34, 0.35, 0.36], 0.05));
  addBox(
    scene,
    [-w / 2 - 0.12, -h / 2 - 0.12, 0.001],
    [w / 2 + 0.12, h / 2 + 0.12, 0.04],
    plain([0.7, 0.7, 0.68], 0.01)
  );
  addQuad(
    scene,
    [-w / 2, -h / 2, 0],
    [w, 0, 0],
    [0, h, 0],
    [0, 0, -1],
    chessboard([0.03, 0.03, 0.032], [0.74, 0.74, 0.72], square)
  );
  return scene;
}

/** A lit screen that fills any view. */
export function flatScreen(): Scene {
  const scene = emptyScene(OVERCAST, { bounces: 1, texel: 20, rays: 4 });
  addQuad(scene, [-60, -60, 1], [120, 0, 0], [0, 120, 0], [0, 0, -1], {
    ...plain([0, 0, 0], 0),
    glow: [0.5, 0.5, 0.5]
  });
  return scene;
}

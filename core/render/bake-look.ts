/**
 * A look made of the tone and colour that stand in a recipe: every node of a cube of displayed colours is taken back to the
 * frame's light and through all stages that act on single pixels. What looks about it, and light above white, has no place
 * in a table.
 */
import { SRGB_TO_REC2020 } from '../colour/primaries.ts';
import { srgbDecode } from '../colour/srgb-transfer.ts';
import type { Rendering } from '../optics/frame-facts.ts';
import { NO_DISTORTION } from '../optics/lens-model.ts';
import type { Look } from '../steps/colour/looks/look.ts';
import { NO_RESOURCES, type Resources } from '../picture/tile/resource.ts';
import type { Vector3 } from '../math/vector3.ts';
import { halfDiagonal } from '../math/frame-geometry.ts';
import { IDENTITY } from '../math/matrix3.ts';
import { packRgb } from '../picture/output/pack-pixels.ts';
import { allocatePlanes, givePlanesBack, placeOn } from '../picture/tile/planes.ts';
import { RESPONSES, inverseBaseCurve } from '../steps/tone/base-curve.ts';
import { lightNorm } from '../steps/tone/light-norm.ts';
import { renderTile } from './render-tile.ts';
import type { StageInputs, StageName } from './stages.ts';

export const BAKED_SIZE = 33;

/** The stages that change a colour by itself, wherever it stands: all others have no place in a table. */
const OF_COLOUR: ReadonlySet<StageName> = new Set([
  'clipped',
  'working',
  'balance',
  'tone',
  'first-tone',
  'grade',
  'look',
  'first-look',
  'encode'
]);

/** What of a picture's stages goes into a table. */
export const coloursAlone = (stages: StageInputs): StageInputs => ({
  ...(Object.fromEntries(
    Object.entries(stages).map(([name, data]) => [name, OF_COLOUR.has(name as StageName) ? data : null])
  ) as StageInputs),
  geometry: stages.geometry
});

/** Columns between nodes, so that none is touched by its neighbour when the picture is resampled. */
const APART = 4;

export function bakeLook(
  stages: StageInputs,
  rendering: Rendering,
  name: string,
  resources: Resources = NO_RESOURCES
): Look {
  const size = { width: BAKED_SIZE * APART, height: BAKED_SIZE ** 2 * APART };
  const values = new Float32Array(3 * BAKED_SIZE ** 3);
  const planes = allocatePlanes(size.width, size.height);
  const out = new Uint16Array(size.width * size.height * 3);
  try {
    const response = rendering === 'scene' ? RESPONSES.plain : null;
    const shares = Array.from({ length: BAKED_SIZE }, (_, i) => srgbDecode(i / (BAKED_SIZE - 1)));
    for (let y = 0; y < size.height; y++)
      for (let x = 0; x < size.width; x++) {
        const row = Math.floor(y / APART);
        const shown: Vector3 = [
          shares[Math.floor(x / APART)],
          shares[row % BAKED_SIZE],
          shares[Math.floor(row / BAKED_SIZE)]
        ];
        const norm = lightNorm(shown);
        const share = norm === 0 ? 0 : inverseBaseCurve(norm, response) / norm;
        const at = y * size.width + x;
        [planes.r[at], planes.g[at], planes.b[at]] = shown.map((value) => value * share);
      }
    const unit = halfDiagonal(size);
    const working = stages.working && { ...stages.working, toWorking: SRGB_TO_REC2020 };
    const geometry = { size, focal: 1, model: NO_DISTORTION, rotation: IDENTITY, stretch: 1 };
    const view = { left: -size.width / 2 / unit, top: -size.height / 2 / unit, pixel: 1 / unit, ...size };
    renderTile(
      {
        source: placeOn(planes, size),
        view,
        stages: { ...coloursAlone(stages), geometry, working },
        resources
      },
      packRgb(out, size.width)
    );
  } finally {
    givePlanesBack(planes);
  }
  for (let n = 0; n < BAKED_SIZE ** 3; n++) {
    const x = (n % BAKED_SIZE) * APART + 1;
    const y = Math.floor(n / BAKED_SIZE) * APART + 1;
    for (let c = 0; c < 3; c++) values[n * 3 + c] = out[(y * size.width + x) * 3 + c] / 65535;
  }
  return { name, kind: '3D', size: BAKED_SIZE, from: [0, 0, 0], to: [1, 1, 1], space: 'srgb', values };
}

/** Frames of the demo camera for tests: developed, with the scene that they are of. */
import { type CameraSetup, capture } from '../../scenes/camera/capture.ts';
import { CAMERA_FROM_SRGB, WHITE_RESPONSE } from '../../scenes/camera/colour.ts';
import { mosaicOf } from '../../scenes/camera/mosaic-of.ts';
import { DEMO_FRAMES, setupAt } from '../../scenes/demo-frames.ts';
import { lightScene } from '../../scenes/take-frame.ts';
import type { LitScene } from '../../scenes/trace/shade.ts';
import { SRGB_TO_REC2020 } from '../colour/primaries.ts';
import { invert3, multiply } from '../math/matrix3.ts';
import { giveBack } from '../picture/kernels/heap.ts';
import { packRgb } from '../picture/output/pack-pixels.ts';
import { developBand } from '../picture/raw/develop.ts';
import { measureNoise } from '../picture/raw/measure-noise.ts';
import { type PlacedPlanes, allocatePlanes, placeOn } from '../picture/tile/planes.ts';
import type { PartialRecipe } from '../recipe/recipe.ts';
import type { Shape } from '../steps/areas/shape.ts';
import { maskStages } from './mask-picture.ts';
import { inputsFor, madeFor, wholeView } from './painted-frame.ts';
import { renderTile } from './render-tile.ts';
import { type StageInputs, asksOf } from './stages.ts';

const [RED, GREEN, BLUE] = WHITE_RESPONSE;
export const TO_WORKING = multiply(
  SRGB_TO_REC2020,
  multiply(invert3(CAMERA_FROM_SRGB), [RED, 0, 0, 0, GREEN, 0, 0, 0, BLUE])
);

export interface DemoShot {
  lit: LitScene;
  setup: CameraSetup;
}

/** The scene of a demo frame, lit, and how it is taken `edge` pixels long. */
export function demoShot(name: string, edge: number): DemoShot {
  const frame = DEMO_FRAMES.find(({ file }) => file.startsWith(name))!;
  return { lit: lightScene(frame.scene()), setup: setupAt(frame, edge) };
}

/** Takes and develops it. */
export function developShot({ lit, setup }: DemoShot): PlacedPlanes {
  const { width, height } = setup.size;
  const planes = placeOn(allocatePlanes(width, height), setup.size);
  // As it was stored: a frame that is upright has its columns for rows.
  const mosaic = mosaicOf(capture(lit, setup));
  mosaic.noise = measureNoise(mosaic);
  developBand(mosaic, planes, 0, mosaic.height);
  return planes;
}

/** What stages make of it as the lens saw it, nothing corrected: codes of 16 bits. */
export function renderShot(
  planes: PlacedPlanes,
  { setup: { size } }: DemoShot,
  recipe: PartialRecipe,
  stored: Uint8Array | null = null,
  stagesOf: (inputs: ReturnType<typeof inputsFor>) => StageInputs = ({ stages }) => stages
): Uint16Array {
  const off = { enabled: false };
  const inputs = inputsFor({ ...recipe, lens: off, lines: off, crop: off } as never, {
    size,
    toWorking: TO_WORKING
  });
  const stages = stagesOf(inputs);
  const made = madeFor(asksOf(stages), { planes, toWorking: TO_WORKING, bytes: stored });
  const resources = new Map([...made].map(([key, { value }]) => [key, value]));
  const out = new Uint16Array(size.width * size.height * 3);
  renderTile({ source: planes, stages, view: wholeView(size), resources }, packRgb(out, size.width));
  for (const { value, resource } of made.values()) giveBack(...resource.memory(value));
  return out;
}

/** The mask of a shape as areas act by it, 0..1. */
export function maskOfShot(planes: PlacedPlanes, shot: DemoShot, shape: object): Float32Array {
  const areas = { shapes: [{ id: 's', ...shape }], list: [] };
  const out = renderShot(planes, shot, { areas } as never, null, (inputs) =>
    maskStages(inputs, inputs.recipe.areas.shapes[0] as unknown as Shape)
  );
  return Float32Array.from({ length: out.length / 3 }, (_, i) => out[i * 3] / 65535);
}

/** Share of what is in either of two masks that is in both. */
export function overlapOf(one: ArrayLike<number>, other: ArrayLike<number>): number {
  let [both, either] = [0, 0];
  for (let i = 0; i < one.length; i++) {
    const [a, b] = [one[i] > 0.5, other[i] > 0.5];
    if (a && b) both++;
    if (a || b) either++;
  }
  return both / either;
}

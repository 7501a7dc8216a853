/** A made-up frame for tests: light painted by a function, and what all stages make of it. */
import { type LensChoice, NO_CHOICE } from '../steps/lens/frame-optics.ts';
import type { FrameFacts } from '../optics/frame-facts.ts';
import { type FrameSize, halfDiagonal } from '../math/frame-geometry.ts';
import { packRgb } from '../picture/output/pack-pixels.ts';
import { type PartialRecipe, completeRecipe } from '../recipe/recipe.ts';
import { foldHighlight } from '../picture/tile/highlights.ts';
import type { View } from '../picture/tile/mesh.ts';
import {
  type Ask,
  NO_RESOURCES,
  type ResourceSource,
  type Resources,
  keyOf
} from '../picture/tile/resource.ts';
import { giveBack } from '../picture/kernels/heap.ts';
import { type PlacedPlanes, allocatePlanes } from '../picture/tile/planes.ts';
import { type RenderInputs, renderInputs } from './render-inputs.ts';
import { type TileCache, renderTile } from './render-tile.ts';
import { type AnyResource, resourceOf } from './resources.ts';
import { asksOf } from './stages.ts';
import type { LookTable } from '../steps/colour/looks/look.ts';
import { storeLook } from '../steps/colour/looks/stored-look.ts';

export const SIZE: FrameSize = { width: 600, height: 400 };
/** sRGB's primaries as the file's own colours: IEC 61966-2-1 to BT.2020, after ITU-R BT.2087. */
export const FROM_SRGB: FrameFacts['toWorking'] = [
  0.6274039, 0.329283, 0.0433131, 0.0690973, 0.9195404, 0.0113623, 0.0163914, 0.0880133, 0.8955953
];

export const FACTS: FrameFacts = {
  format: 'DNG',
  rendering: 'scene',
  size: SIZE,
  make: null,
  model: null,
  lensMaker: null,
  lens: null,
  focalLength: 24,
  focalLength35: 24,
  aperture: null,
  distance: null,
  exposureTime: null,
  iso: null,
  taken: null,
  artist: null,
  copyright: null,
  sensorHalfDiagonal: null,
  toWorking: FROM_SRGB,
  corrections: null,
  position: null
};

export type Rgb = readonly [number, number, number];

/** Linear light at each pixel's centre. */
export function paint(lightAt: (x: number, y: number) => Rgb, { width, height } = SIZE): PlacedPlanes {
  const planes = allocatePlanes(width, height);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const [r, g, b] = lightAt(x + 0.5, y + 0.5);
      planes.r[y * width + x] = foldHighlight(r);
      planes.g[y * width + x] = foldHighlight(g);
      planes.b[y * width + x] = foldHighlight(b);
    }
  return { ...planes, originX: 0, originY: 0, scaleX: 1, scaleY: 1 };
}

export const inputsFor = (
  recipe: PartialRecipe = {},
  facts: Partial<FrameFacts> = {},
  choice: LensChoice = NO_CHOICE,
  output?: Parameters<typeof renderInputs>[3]
): RenderInputs => renderInputs(completeRecipe(recipe), { ...FACTS, ...facts }, choice, output);

/** A whole frame, one pixel for `reduction`. */
export const wholeView = ({ width, height }: FrameSize = SIZE, reduction = 1): View => {
  const unit = halfDiagonal({ width, height });
  return {
    left: -width / 2 / unit,
    top: -height / 2 / unit,
    pixel: reduction / unit,
    width: Math.round(width / reduction),
    height: Math.round(height / reduction)
  };
};

/** Makes what is asked for, and what that reads, but for what is known already. */
export function madeFor(
  asks: readonly Ask[],
  from: Pick<ResourceSource, 'planes' | 'toWorking' | 'bytes'>,
  known: Resources = NO_RESOURCES
): Map<string, { value: unknown; resource: AnyResource }> {
  const made = new Map<string, { value: unknown; resource: AnyResource }>();
  const valueOf = (ask: Ask): unknown => {
    const key = keyOf(ask);
    if (known.has(key)) return known.get(key);
    const before = made.get(key);
    if (before) return before.value;
    const resource = resourceOf(ask);
    const resources = new Map((resource.reads?.(ask.data) ?? []).map((each) => [keyOf(each), valueOf(each)]));
    const value = resource.make({ ...from, picture: null, resources }, ask.data);
    made.set(key, { value, resource });
    return value;
  };
  asks.forEach(valueOf);
  return made;
}

/** What is measured of a source stays as long as it does: most tests look at one source under many settings. */
const measured = new WeakMap<PlacedPlanes, Map<string, unknown>>();

/** Codes of 16 bits; what the stages read is made from the source, and from a look. */
export function rendered(
  source: PlacedPlanes,
  { stages }: RenderInputs,
  view = wholeView(),
  cache?: TileCache,
  look: LookTable | null = null
): Uint16Array {
  const out = new Uint16Array(view.width * view.height * 3);
  const bytes = look && storeLook({ ...look, name: 'test' });
  const known = measured.get(source) ?? new Map<string, unknown>();
  measured.set(source, known);
  const from = { planes: source, toWorking: FROM_SRGB, bytes };
  const made = madeFor(asksOf(stages), from, known);
  const resources = new Map([...known, ...[...made].map(([key, { value }]) => [key, value] as const)]);
  const passing: ArrayBufferView[] = [];
  for (const [key, { value, resource }] of made) {
    if (resource.of === 'frame') known.set(key, value);
    else passing.push(...resource.memory(value));
  }
  renderTile({ source, stages, view, resources, label: 'test' }, packRgb(out, view.width), cache);
  giveBack(...passing);
  return out;
}

/** What the bench and its preview workers say to each other. */
import type { FrameSize, Point } from '$core/math/frame-geometry.ts';
import type { ColourSettings } from '$core/steps/colour/step.ts';
import type { ToneSettings } from '$core/steps/tone/step.ts';
import type { LightColours } from '$core/steps/colour/light-colour.ts';
import type { HeldBands } from '$core/steps/tone/held-bands.ts';
import type { Suggestion } from '$core/steps/tone/suggest-tone.ts';
import type { Rectangle } from '$core/steps/crop/rectangle.ts';
import type { Rendering } from '$core/optics/frame-facts.ts';
import type { Fill } from '$core/steps/mend/fill/fill.ts';
import type { Projection } from '$core/picture/geometry/projection.ts';
import type { Patch, Region } from '$core/steps/mend/patch.ts';
import type { Look } from '$core/steps/colour/looks/look.ts';
import type { LensModel } from '$core/optics/lens-model.ts';
import type { TrueUpItself } from '$core/steps/lines/true-up-itself.ts';
import type { Vector3 } from '$core/math/vector3.ts';
import type { Matrix3 } from '$core/math/matrix3.ts';
import type { SourceInputs } from '$core/render/source-planes.ts';
import type { StageInputs } from '$core/render/stages.ts';
import type { MaskSpec } from '$core/steps/areas/shape.ts';
import type { View } from '$core/picture/tile/mesh.ts';
import type { Ask } from '$core/picture/tile/resource.ts';
import type { PlacedPlanes } from '$core/picture/tile/planes.ts';
import type { SensorRectangle } from '$core/picture/tile/sensor-rectangle.ts';

/** What is open on the bench. */
export interface OpenFrame {
  frameId: string;
  size: FrameSize;
  proxy: FrameSize;
  /** For questions about colour. */
  toWorking: Matrix3;
}

/** What a picture is drawn for: the sheet, and the other picture that it is compared with; the crop is drawn to be counted where the sheet does not show all of it. Beside the sheet and its magnifier small ones: of the ratios, of the whole, of other states. */
export type Aside = 'small' | 'overview' | 'state' | 'mask' | 'cover' | 'covered';
export type Target = 'sheet' | 'other' | 'magnifier' | 'crop' | Aside;

/**
 * Pixels that a tile is drawn from: a level of the proxy, as it came or as source stages left it (by the key of that
 * resource); or full-size pixels, by the number of their fetching.
 */
export type SourceName = { level: number; developed: string | null } | { full: number };

/** A resource that stages read, by what the workers keep it by. */
export interface ResourceKey {
  ask: Ask;
  key: string;
}

/** What all tiles of a drawing are made by: sent once to each worker that draws some of it. */
export interface DrawingInputs {
  number: number;
  stages: StageInputs;
  resources: readonly ResourceKey[];
}

export interface TileTask {
  kind: 'tile';
  /** Number of the drawing, whose inputs the worker has, and of the tile in it. */
  drawing: number;
  index: number;
  source: SourceName;
  /** The part of the view that the tile shows. */
  view: View;
  draft: boolean;
  meshError: number;
  /** Keep what the pixel stages start from: a change of light alone begins there. */
  keep: boolean;
  /** Part of the upright plane that is counted. */
  count: Rectangle | null;
}

/** Questions about the picture that a worker answers from the proxy; places are field positions. */
export type Question =
  | { kind: 'trace'; polyline: Point[] }
  | { kind: 'find' }
  | { kind: 'lines'; model: LensModel; focal: number; focalKnown: boolean }
  | { kind: 'hue'; at: Point }
  | { kind: 'colour'; at: Point }
  | { kind: 'base'; at: Point }
  /** `matrix`: the balance that stands between the frame's colours and their hues. */
  | { kind: 'hues'; matrix: Matrix3 }
  | { kind: 'cast'; matrix: Matrix3 }
  /** The recipe's tone and colour as a look. */
  | { kind: 'bake'; stages: StageInputs; rendering: Rendering; name: string }
  | { kind: 'bands' }
  /** The stops of what a shape covers. */
  | { kind: 'covered'; mask: MaskSpec }
  | { kind: 'white' }
  | { kind: 'tone'; tone: ToneSettings; asked: readonly (keyof Suggestion)[] }
  /** `others`: what is mended already. */
  | { kind: 'source'; region: Region; others: readonly Patch[] }
  | { kind: 'fill'; region: Region; before: Fill | null; projection: Projection | null }
  | { kind: 'dust'; others: readonly Patch[] };

export interface Answers {
  /** Points of the edge under the polyline; empty when there is none. */
  trace: Point[];
  /** Long smooth edges. */
  find: Point[][];
  /** Plumb and level lines, or why none are sure enough. */
  lines: TrueUpItself;
  /** Hue in degrees of the strongest colour about the place, and its chroma. */
  hue: { hue: number; chroma: number };
  /** Mean working colour about the place, as shot; null where there is no picture. */
  colour: Vector3 | null;
  /** Stops about white of the broad light at the place, as shot. */
  base: number;
  /** How much of each five degrees of hue the picture holds, the most of them 1. */
  hues: number[];
  /** The cast of each zone. */
  cast: ColourSettings['castFound'];
  bake: Look;
  /** The bands that the picture holds. */
  bands: HeldBands;
  /** Shares of what is covered, from the darkest stops that ranges have to the lightest. */
  covered: number[];
  /** Working colours of the light, or of both, as what is nearest to grey tells them. */
  white: LightColours;
  /** What tone by itself would be, about what is set. */
  tone: Suggestion;
  /** Where the texture for a place is taken from, from the place on. */
  source: [number, number];
  /** What a larger place is filled with; null where nothing could be taken. */
  fill: Fill | null;
  /** Patches for the dust that shows. */
  dust: Patch[];
}

/** `opening` numbers the openings of frames: what belongs to an earlier one is not listened to. */
export type WorkerTask =
  | { kind: 'start'; memory: WebAssembly.Memory | null }
  | ({ kind: 'open'; opening: number } & OpenFrame)
  /** Another worker opened a frame on the memory that both share. */
  | { kind: 'opened elsewhere'; frame: OpenFrame; levels: PlacedPlanes[] }
  /** Nothing is drawn any more from the levels of an opening, or from full-size pixels. */
  | { kind: 'leave levels'; opening: number }
  | { kind: 'leave full'; number: number }
  | { kind: 'ahead'; frames: string[] }
  /** To fetch full-size pixels of a part of the sensor, and of whatever source stages need to make it. */
  | {
      kind: 'full';
      number: number;
      opening: number;
      rectangle: SensorRectangle;
      sources: SourceInputs;
    }
  | { kind: 'full elsewhere'; number: number; source: PlacedPlanes }
  /** To make a resource; `developed`: the key of the levels that it is made of, where source stages changed them. */
  | {
      kind: 'make';
      number: number;
      wanted: ResourceKey;
      bytes: Uint8Array | null;
      developed: string | null;
      /** What it reads. */
      resources: readonly ResourceKey[];
    }
  | { kind: 'have'; key: string; value: unknown }
  | { kind: 'drop'; key: string; resource: string }
  | ({ kind: 'inputs' } & DrawingInputs)
  /** No tile of a drawing is to come any more. */
  | { kind: 'done'; drawing: number }
  | TileTask
  | {
      kind: 'ask';
      number: number;
      question: Question;
      resources: readonly ResourceKey[];
      developed: string | null;
    };

/** Tasks that a worker answers one after another, in the order that it was given them. */
export type AnsweredTask = Extract<WorkerTask, { kind: 'tile' | 'make' | 'ask' }>;

/** How often each of 256 values is on the sheet. */
export interface Histogram {
  counts: [red: number[], green: number[], blue: number[]];
  luminance: number[];
  pixels: number;
  /** Pixels at the very top in any colour, or at the bottom in all. */
  clippedHigh: number;
  clippedLow: number;
  /** The same for red, green and blue by themselves. */
  high: number[];
  low: number[];
}

export type WorkerAnswer =
  /** Planes come along only where memory is shared. */
  | { kind: 'opened'; opening: number; levels: PlacedPlanes[]; milliseconds: number }
  | { kind: 'failed'; opening: number; message: string; again: boolean }
  /** `held`: the part of the sensor that there are full-size pixels of now; null when they could not be had. */
  | {
      kind: 'full';
      number: number;
      opening: number;
      held: SensorRectangle | null;
      source: PlacedPlanes | null;
      message: string;
    }
  /** The value comes along only where memory is shared; `said`: why it could not be made, else empty. */
  | { kind: 'made'; number: number; value: unknown; said: string }
  /** Null where the picture is gone that was asked about. */
  | { kind: 'answer'; number: number; answer: Answers[keyof Answers] | null }
  /** `pixels`: null where what it was to be drawn from is gone. */
  | {
      kind: 'tile';
      drawing: number;
      index: number;
      pixels: ArrayBuffer | null;
      counts: Uint32Array | null;
    };

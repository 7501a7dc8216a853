/** What the bench and its preview workers say to each other. */
import type { FrameSize, Point } from '$core/math/frame-geometry.ts';
import type { ColourSettings } from '$core/steps/colour/step.ts';
import type { ToneSettings } from '$core/steps/tone/step.ts';
import type { Suggestion } from '$core/steps/tone/suggest-tone.ts';
import type { Rendering } from '$core/optics/frame-facts.ts';
import type { Look } from '$core/steps/colour/looks/look.ts';
import type { LensModel } from '$core/optics/lens-model.ts';
import type { TrueUpItself } from '$core/steps/lines/true-up-itself.ts';
import type { Vector3 } from '$core/math/vector3.ts';
import type { Matrix3 } from '$core/math/matrix3.ts';
import type { StageInputs } from '$core/render/stages.ts';
import type { FrameLight } from '$core/picture/tile/frame-light.ts';
import type { View } from '$core/picture/tile/mesh.ts';
import type { TileLook } from '$core/picture/tile/tile.ts';
import type { PlacedPlanes } from '$core/picture/tile/planes.ts';

/** What is open on the bench. */
export interface OpenFrame {
  frameId: string;
  size: FrameSize;
  proxy: FrameSize;
  /** For questions about colour. */
  toWorking: Matrix3;
}

/** What a picture is drawn for. */
export type Target = 'sheet' | 'magnifier' | 'small' | 'overview';

/** A part of the sensor, in its pixels. */
export interface Area {
  left: number;
  top: number;
  right: number;
  bottom: number;
}

/** Pixels that a tile is drawn from: a half of the proxy, or the full-size pixels that were fetched for a target. */
export type SourceName = { level: number } | { full: Target };

export interface TileTask {
  kind: 'tile';
  /** Number of the drawing, and of the tile in it. */
  drawing: number;
  index: number;
  source: SourceName;
  /** The part of the view that the tile shows. */
  view: View;
  stages: StageInputs;
  draft: boolean;
  meshError: number;
  /** Keep what the pixel stages start from: a change of light alone begins there. */
  keep: boolean;
  count: boolean;
}

/** Questions about the picture that a worker answers from the proxy; places are field positions. */
export type AskRequest =
  | { kind: 'trace'; number: number; polyline: Point[] }
  | { kind: 'find'; number: number }
  | { kind: 'lines'; number: number; model: LensModel; focal: number; focalKnown: boolean }
  | { kind: 'hue'; number: number; at: Point }
  | { kind: 'colour'; number: number; at: Point }
  | { kind: 'base'; number: number; at: Point }
  /** `matrix`: the balance that stands between the frame's colours and their hues. */
  | { kind: 'hues'; number: number; matrix: Matrix3 }
  | { kind: 'cast'; number: number; matrix: Matrix3 }
  /** The recipe's tone and colour as a look. */
  | { kind: 'bake'; number: number; stages: StageInputs; rendering: Rendering; name: string }
  | { kind: 'bands'; number: number }
  | { kind: 'white'; number: number }
  | { kind: 'tone'; number: number; tone: ToneSettings };

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
  bands: { darkest: number; lightest: number };
  /** Working colour of the light, as what is nearest to grey tells it. */
  white: Vector3;
  /** What tone by itself would be, about what is set. */
  tone: Suggestion;
}

/** `opening` numbers the openings of frames: what belongs to an earlier one is not listened to. */
export type WorkerTask =
  | { kind: 'start'; memory: WebAssembly.Memory | null }
  | ({ kind: 'open'; opening: number } & OpenFrame)
  /** Another worker opened a frame on the memory that both share. */
  | { kind: 'opened elsewhere'; frame: OpenFrame; levels: PlacedPlanes[] }
  | { kind: 'ahead'; frames: string[] }
  | { kind: 'full'; opening: number; drawing: number; target: Target; area: Area }
  | { kind: 'full elsewhere'; target: Target; source: PlacedPlanes }
  /** To measure the broad light of the frame, for pictures that need it; it is kept until another frame is opened. */
  | { kind: 'light'; opening: number }
  | { kind: 'light elsewhere'; light: FrameLight }
  /** To fetch a look, for pictures that have it; it is kept until another is needed. */
  | { kind: 'look'; look: string }
  | { kind: 'look elsewhere'; id: string; look: TileLook }
  | TileTask
  | AskRequest;

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
  | { kind: 'light'; opening: number; light: FrameLight | null }
  /** `found`: false where it could not be had. */
  | { kind: 'look'; id: string; found: boolean; look: TileLook | null }
  | { kind: 'failed'; opening: number; message: string; again: boolean }
  /** `held`: the part of the sensor that there are full-size pixels of now; null when they could not be had. */
  | {
      kind: 'full';
      opening: number;
      drawing: number;
      target: Target;
      held: Area | null;
      source: PlacedPlanes | null;
      message: string;
    }
  | { kind: 'answer'; number: number; answer: Answers[keyof Answers] }
  | {
      kind: 'tile';
      drawing: number;
      index: number;
      pixels: ArrayBuffer;
      counts: Uint32Array | null;
    };

/** What the bench and its preview worker say to each other. */
import type { FrameSize, Point } from '$core/math/frame-geometry.ts';
import type { LensModel } from '$core/lens/lens-model.ts';
import type { TrueUpItself } from '$core/lines/true-up-itself.ts';
import type { Matrix3 } from '$core/math/matrix3.ts';
import type { StageInputs } from '$core/render/stages.ts';
import type { View } from '$core/tile/mesh.ts';

export interface OpenRequest {
  kind: 'open';
  frameId: string;
  size: FrameSize;
  proxy: FrameSize;
  /** For questions about colour. */
  toWorking: Matrix3;
}

/** What a picture is drawn for. */
export type Target = 'sheet' | 'magnifier' | 'small';

export interface DrawRequest {
  kind: 'draw';
  /** Which canvas the picture is for: each has its own newest request. */
  target: Target;
  number: number;
  stages: StageInputs;
  view: View;
  /** Coarse but fast: for a picture in motion. */
  draft: boolean;
}

/** Questions about the picture that the worker answers from the proxy; places are field positions. */
export type AskRequest =
  | { kind: 'trace'; number: number; polyline: Point[] }
  | { kind: 'find'; number: number }
  | { kind: 'lines'; number: number; model: LensModel; focal: number; focalKnown: boolean }
  | { kind: 'hue'; number: number; at: Point };

export interface Answers {
  /** Points of the edge under the polyline; empty when there is none. */
  trace: Point[];
  /** Long smooth edges. */
  find: Point[][];
  /** Plumb and level lines, or why none are sure enough. */
  lines: TrueUpItself;
  /** Hue in degrees of the strongest colour about the place, and its chroma. */
  hue: { hue: number; chroma: number };
}

export interface Histogram {
  /** 64 counts of red, green and blue each. */
  counts: [number[], number[], number[]];
  pixels: number;
  /** Pixels at the very top or bottom in any colour. */
  clippedHigh: number;
  clippedLow: number;
}

export type WorkerAnswer =
  | { kind: 'opened'; milliseconds: number }
  | { kind: 'failed'; message: string }
  | { kind: 'fetching'; waiting: boolean }
  | { kind: 'answer'; number: number; answer: Answers[keyof Answers] }
  | {
      kind: 'drawn';
      target: Target;
      number: number;
      draft: boolean;
      /** True when the picture was made from full-size pixels, or needs none. */
      sharp: boolean;
      width: number;
      height: number;
      pixels: ArrayBuffer;
      histogram: Histogram | null;
      milliseconds: number;
    };

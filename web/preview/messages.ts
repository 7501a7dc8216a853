/** What the bench and its preview worker say to each other. */
import type { FrameSize } from '$core/camera/frame-geometry.ts';
import type { Rendering } from '$core/colour/display-table.ts';
import type { Falloff } from '$core/output/quantise.ts';
import type { View } from '$core/pipeline/map-mesh.ts';
import type { Projection } from '$core/pipeline/projection.ts';

export interface OpenRequest {
  kind: 'open';
  frameId: string;
  size: FrameSize;
  proxy: FrameSize;
  rendering: Rendering;
}

export interface DrawRequest {
  kind: 'draw';
  /** Which canvas the picture is for: each has its own newest request. */
  target: 'sheet' | 'magnifier';
  number: number;
  projection: Projection;
  falloff: Falloff | null;
  view: View;
  /** Coarse but fast: for a picture in motion. */
  draft: boolean;
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
  | {
      kind: 'drawn';
      target: 'sheet' | 'magnifier';
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

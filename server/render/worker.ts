/** What render threads do. Pictures are in shared memory: a task names rows, and writes only those. */
import { readFile } from 'node:fs/promises';
import { type FrameSize, type Point, halfDiagonal, sensorToField } from '../../core/math/frame-geometry.ts';
import type { LensModel } from '../../core/lens/lens-model.ts';
import { findSegments } from '../../core/lines/find-segments.ts';
import { type TrueUpItself, trueUpItself } from '../../core/lines/true-up-itself.ts';
import { type MeasuredChart, measureChart } from '../../core/chart/measure-chart.ts';
import { type FlatFit, fitFlat } from '../../core/flat/fit-flat.ts';
import type { FringeColour } from '../../core/fringe/remove-fringe.ts';
import { type SharpenOptions, sharpen } from '../../core/output/sharpen.ts';
import { mosaicSource, planesSource } from '../../core/lateral/colour-source.ts';
import { fitLateral } from '../../core/lateral/fit-lateral.ts';
import { type LateralEdge, measureEdges } from '../../core/lateral/measure-edges.ts';
import { renderBand } from '../../core/render/render-band.ts';
import type { Projection } from '../../core/geometry/projection.ts';
import { type View, buildMesh } from '../../core/geometry/build-mesh.ts';
import { type PlacedPlanes, type Planes, allocatePlanes } from '../../core/tile/planes.ts';
import { halve } from '../../core/tile/halve.ts';
import { resample } from '../../core/geometry/resample.ts';
import { developBand } from '../../core/raw/develop.ts';
import type { Mosaic } from '../../core/raw/mosaic.ts';
import { type Look, toRgb16, toRgb8 } from '../../core/output/quantise.ts';
import { type Decoded, decodeFile } from '../decode/decode-file.ts';
import { UserError } from '../decode/user-error.ts';

export interface RenderTask {
  source: PlacedPlanes;
  projection: Projection;
  view: View;
  from: number;
  to: number;
  look: Look;
  fringes: readonly FringeColour[];
  out: Uint8Array | Uint16Array;
}

/** Errors lose their class between threads; what is meant for the user is marked instead. */
export interface Refusal {
  refused: string;
}

export async function decode({ path, name }: { path: string; name: string }): Promise<Decoded | Refusal> {
  try {
    const decoded = await decodeFile(await readFile(path), name);
    if (decoded.kind === 'mosaic') {
      decoded.edges = measureEdges(mosaicSource(decoded.mosaic));
      // Demosaicing needs to know where the lens lays red and blue, as far as the mosaic itself shows it.
      const fit = fitLateral(decoded.edges, halfDiagonal(decoded.facts.size));
      decoded.mosaic.lateral = fit.ok ? fit.lateral : null;
    }
    return decoded;
  } catch (error) {
    if (error instanceof UserError) return { refused: error.message };
    throw error;
  }
}

export function develop(task: { mosaic: Mosaic; planes: Planes; from: number; to: number }): void {
  developBand(task.mosaic, task.planes, task.from, task.to);
}

export function reduce({ source, out }: { source: PlacedPlanes; out: Planes }): void {
  halve(source, out);
}

export function render({ source, projection, view, from, to, look, fringes, out }: RenderTask): void {
  const band: View = { ...view, top: view.top + from * view.pixel, height: to - from };
  const mesh = buildMesh(projection, band);
  const planes = renderBand(source, projection, view, from, to, mesh, look.toWorking, fringes);
  const length = view.width * (to - from) * 3;
  const offset = view.width * from * 3;
  const target = out.subarray(offset, offset + length);
  if (target instanceof Uint16Array) toRgb16(planes, mesh, target, look);
  else toRgb8(planes, mesh, target, look);
}

export function sharpenRows(task: {
  pixels: Uint8Array | Uint16Array;
  size: FrameSize;
  out: Uint8Array | Uint16Array;
  options: SharpenOptions;
  from: number;
  to: number;
}): void {
  sharpen(task.pixels, task.size, task.out, task.options, task.from, task.to);
}

/** Edges of developed planes, for the Fringe reading. */
export function edges({ planes }: { planes: Planes }): LateralEdge[] {
  return measureEdges(planesSource(planes));
}

/** Plumb and level lines of a proxy. */
export function lines({
  planes,
  model,
  size,
  focal,
  focalKnown
}: {
  planes: PlacedPlanes;
  model: LensModel;
  size: FrameSize;
  focal: number;
  focalKnown: boolean;
}): TrueUpItself {
  const grey = { width: planes.width, height: planes.height, data: planes.g };
  const toField = ([x, y]: Point): Point => sensorToField([x / planes.scaleX, y / planes.scaleY], size);
  return trueUpItself(findSegments(grey, { model, toField }), { focal, focalKnown });
}

/** Corners of a chart, or null; falloff of a flat frame. Both on full-size planes. */
export function chart({ planes }: { planes: Planes }): MeasuredChart | null {
  return measureChart(planes);
}

export function flat({ planes }: { planes: Planes }): FlatFit {
  return fitFlat(planes);
}

/** Linear 16-bit rows of the whole frame at another size: the proxy. */
export function reduceLinear(task: {
  source: PlacedPlanes;
  projection: Projection;
  view: View;
  from: number;
  to: number;
  out: Uint16Array;
}): void {
  const { source, projection, view, from, to, out } = task;
  const band: View = { ...view, top: view.top + from * view.pixel, height: to - from };
  const planes = allocatePlanes(view.width, to - from);
  resample(source, buildMesh(projection, band), planes);
  const start = view.width * from * 3;
  for (let i = 0; i < view.width * (to - from); i++) {
    out[start + i * 3] = Math.min(65535, planes.r[i] * 65535 + 0.5);
    out[start + i * 3 + 1] = Math.min(65535, planes.g[i] * 65535 + 0.5);
    out[start + i * 3 + 2] = Math.min(65535, planes.b[i] * 65535 + 0.5);
  }
}

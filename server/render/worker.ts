/** What render threads do. Pictures are in memory that all share: a task names rows, and writes only those. */
import { workerData } from 'piscina';
import { useMemory } from '../../core/picture/kernels/kernels.ts';
import { type FrameSize, type Point, sensorToField } from '../../core/math/frame-geometry.ts';
import type { LensModel } from '../../core/optics/lens-model.ts';
import { findSegments } from '../../core/steps/lines/find-segments.ts';
import { type TrueUpItself, trueUpItself } from '../../core/steps/lines/true-up-itself.ts';
import { type MeasuredChart, measureChart } from '../../core/measure/chart/measure-chart.ts';
import { type FlatFit, fitFlat } from '../../core/measure/flat/fit-flat.ts';
import { type SharpenOptions, sharpen } from '../../core/picture/output/sharpen.ts';
import { planesSource } from '../../core/measure/lateral/colour-source.ts';
import { type LateralEdge, measureEdges } from '../../core/measure/lateral/measure-edges.ts';
import type { Projection } from '../../core/picture/geometry/projection.ts';
import { buildMesh } from '../../core/picture/geometry/build-mesh.ts';
import type { View } from '../../core/picture/tile/mesh.ts';
import { giveBack, takeUint8 } from '../../core/picture/kernels/heap.ts';
import {
  type PlacedPlanes,
  type Planes,
  givePlanesBack,
  takePlanes
} from '../../core/picture/tile/planes.ts';
import type { Look } from '../../core/steps/colour/looks/look.ts';
import { measureLight } from '../../core/measure/light/measure-light.ts';
import type { Matrix3 } from '../../core/math/matrix3.ts';
import type { FrameLight } from '../../core/picture/tile/frame-light.ts';
import { halveRows } from '../../core/picture/tile/halve.ts';
import { resample } from '../../core/picture/geometry/resample.ts';
import { packRgb } from '../../core/picture/output/pack-pixels.ts';
import { type ColourTable, fillTable, tableHolds } from '../../core/render/colour-table.ts';
import { greyOf } from '../../core/measure/edges/grey-of.ts';
import { renderTile } from '../../core/render/render-tile.ts';
import type { StageInputs } from '../../core/render/stages.ts';
import {
  LINEAR_16,
  SRGB_16,
  STORED_16,
  fillPlanes,
  storeArea,
  storePlanes
} from '../../core/picture/tile/stored-planes.ts';
import { developBand } from '../../core/picture/raw/develop.ts';
import { type Lattices, splitBand } from '../../core/picture/raw/lattices.ts';
import type { Mosaic } from '../../core/picture/raw/mosaic.ts';
import { reduceLattices } from '../../core/picture/geometry/reduce-lattices.ts';

useMemory(workerData as WebAssembly.Memory);

export interface RenderTask {
  source: PlacedPlanes;
  light: FrameLight | null;
  look: Look | null;
  table: ColourTable | null;
  stages: StageInputs;
  view: View;
  from: number;
  to: number;
  out: Uint8Array | Uint16Array;
}

export function develop(task: {
  mosaic: Mosaic;
  planes: Planes;
  from: number;
  to: number;
  clip: boolean;
}): void {
  developBand(task.mosaic, task.planes, task.from, task.to, { clip: task.clip });
}

export function reduce(task: { source: PlacedPlanes; out: Planes; from: number; to: number }): void {
  halveRows(task.source, task.out, task.from, task.to);
}

/** The broad light of a whole picture. */
export const light = (task: { source: PlacedPlanes; toWorking: Matrix3; into: FrameLight }): FrameLight =>
  measureLight(task.source, task.toWorking, task.into);

/** Rows [from, to) of a view as a view of their own. */
const bandOf = (view: View, from: number, to: number): View => ({
  ...view,
  top: view.top + from * view.pixel,
  height: to - from
});

/** Some blues of a table of colours. */
export function tabulate(task: {
  table: ColourTable;
  stages: StageInputs;
  look: Look | null;
  from: number;
  to: number;
}): void {
  fillTable(task.table, task.stages, task.look, task.from, task.to);
}

/** Whether a table gives some colours what the stages do. */
export const holds = (task: {
  table: ColourTable;
  stages: StageInputs;
  look: Look | null;
  colours: Pick<Planes, 'r' | 'g' | 'b'>;
}): boolean => tableHolds(task.table, task.stages, task.look, task.colours);

export function render({ source, light, look, table, stages, view, from, to, out }: RenderTask): void {
  const target = out.subarray(view.width * from * 3, view.width * to * 3);
  renderTile(
    { source, light, look, table, stages, view: bandOf(view, from, to) },
    packRgb(target, view.width)
  );
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
  const toField = ([x, y]: Point): Point => sensorToField([x / planes.scaleX, y / planes.scaleY], size);
  return trueUpItself(findSegments(greyOf(planes), { model, toField }), { focal, focalKnown });
}

/** Corners of a chart, or null; falloff of a flat frame. Both on full-size planes. */
export function chart({ planes }: { planes: Planes }): MeasuredChart | null {
  return measureChart(planes);
}

export function flat({ planes }: { planes: Planes }): FlatFit {
  return fitFlat(planes);
}

/** Rows of the whole frame at another size, stored as 16-bit codes: the proxy. */
export function reduceStored(task: {
  source: PlacedPlanes;
  projection: Projection;
  view: View;
  from: number;
  to: number;
  out: Uint16Array;
}): void {
  const { source, projection, view, from, to, out } = task;
  const planes = takePlanes(view.width, to - from);
  const valid = takeUint8(planes.g.length);
  resample(source, buildMesh(projection, bandOf(view, from, to)), { ...planes, valid }, { folded: true });
  storePlanes(planes, out.subarray(view.width * from * 3, view.width * to * 3));
  givePlanesBack(planes);
  giveBack(valid);
}

/** Bands of a mosaic to its lattices, and of these to the codes of a reduction. */
export function split(task: { mosaic: Mosaic; lattices: Lattices; from: number; to: number }): void {
  splitBand(task.mosaic, task.lattices, task.from, task.to);
}

export function reduceSplit(task: {
  lattices: Lattices;
  projection: Projection;
  view: View;
  from: number;
  to: number;
  out: Uint16Array;
}): void {
  const { lattices, projection, view, from, to, out } = task;
  const planes = takePlanes(view.width, to - from);
  reduceLattices(lattices, buildMesh(projection, bandOf(view, from, to)), planes);
  storePlanes(planes, out.subarray(view.width * from * 3, view.width * to * 3));
  givePlanesBack(planes);
}

/** Rows of planes from the codes of a picture. */
export function fill(task: {
  codes: Uint16Array;
  encoding: 'linear' | 'srgb' | 'stored';
  planes: Planes;
  from: number;
  to: number;
}): void {
  const { codes, encoding, planes, from, to } = task;
  const { width } = planes;
  const values = { linear: LINEAR_16, srgb: SRGB_16, stored: STORED_16 }[encoding];
  fillPlanes(codes.subarray(from * width * 3, to * width * 3), width, planes, values, 0, from);
}

/** A tile of planes as they are, stored as 16-bit codes. */
export function storeTile(task: {
  planes: Planes;
  tile: { left: number; top: number; width: number; height: number };
  out: Uint16Array;
}): void {
  storeArea(task.planes, task.tile, task.out);
}

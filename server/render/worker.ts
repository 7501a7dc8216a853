/** What render threads do. Pictures are in memory that all share: a task names rows, and writes only those. */
import { threadId } from 'node:worker_threads';
import { workerData } from 'piscina';
import { kernels, useMemory } from '../../core/picture/kernels/kernels.ts';
import type { Curve } from '../../core/optics/curve.ts';
import {
  type FrameCurves,
  type LensOfFrames,
  solveLensOfFrames
} from '../../core/steps/lens/solve-lens-frames.ts';
import { type FrameSize, type Point, sensorToField } from '../../core/math/frame-geometry.ts';
import { type MeasuredChart, measureChart } from '../../core/measure/chart/measure-chart.ts';
import { type FlatFit, fitFlat } from '../../core/measure/flat/fit-flat.ts';
import { planesSource } from '../../core/measure/lateral/colour-source.ts';
import { type LateralEdge, measureEdges } from '../../core/measure/lateral/measure-edges.ts';
import type { Projection } from '../../core/picture/geometry/projection.ts';
import { buildMesh } from '../../core/picture/geometry/build-mesh.ts';
import type { View } from '../../core/picture/tile/mesh.ts';
import { inArena } from '../../core/picture/kernels/arena.ts';
import { type PlacedPlanes, type Planes } from '../../core/picture/tile/planes.ts';
import { halveRows } from '../../core/picture/tile/halve.ts';
import { resample } from '../../core/picture/geometry/resample.ts';
import { packRgb } from '../../core/picture/output/pack-pixels.ts';
import type { Ask, ResourceSource, Resources } from '../../core/picture/tile/resource.ts';
import { giveLightBack, measureLight } from '../../core/measure/light/measure-light.ts';
import { RENDITION } from '../../core/settings/rendition.ts';
import { lightColours } from '../../core/steps/colour/light-colour.ts';
import { suggestTone } from '../../core/steps/tone/suggest-tone.ts';
import { type CommonLight, commonLight } from '../../core/measure/common/common-light.ts';
import { findPlaces } from '../../core/measure/common/places.ts';
import { greyOf } from '../../core/measure/edges/grey-of.ts';
import { longEdges } from '../../core/measure/edges/long-edges.ts';
import { type LookedAt, lookAtPicture } from '../../core/render/readings/found-evidence.ts';
import { renderTile } from '../../core/render/render-tile.ts';
import { resourceOf } from '../../core/render/resources.ts';
import { lookForDust } from '../../core/steps/mend/dust/dust-patches.ts';
import { type SourceInputs, changeRows } from '../../core/render/source-planes.ts';
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
import type { LightTask, LightTold } from './by-itself.ts';
import type { CommonTask } from './common-task.ts';
import type { LookTask } from './look-in-pool.ts';
import { type SharedInputs, readInputs } from './shared-inputs.ts';
import { type StopFlag, isStopped } from './stop-flag.ts';
import { ownerOf } from './thread-owner.ts';

useMemory(workerData as WebAssembly.Memory);
kernels().setOwner(ownerOf(threadId));

/** What a task comes in, with the flag that is raised when nobody wants it any more. */
interface Given<Task> {
  task: Task;
  stop: StopFlag | null;
}

/** A task that is not begun once it is to stop: between two bands a thread looks here. */
const unlessStopped =
  <Task, Answer>(work: (task: Task) => Answer) =>
  ({ task, stop }: Given<Task>): Answer => {
    if (isStopped(stop)) throw new Error('Nobody wants this any more.');
    return work(task);
  };

export interface RenderTask {
  source: PlacedPlanes;
  resources: Resources;
  /** StageInputs. */
  stages: SharedInputs;
  view: View;
  from: number;
  to: number;
  out: Uint8Array | Uint16Array;
}

/** Some rows of a task. */
interface Band {
  from: number;
  to: number;
}

/** Rows [from, to) of a view as a view of their own. */
const bandOf = (view: View, from: number, to: number): View => ({
  ...view,
  top: view.top + from * view.pixel,
  height: to - from
});

export const develop = unlessStopped(
  ({ mosaic, planes, from, to, clip }: Band & { mosaic: Mosaic; planes: Planes; clip: boolean }): void =>
    developBand(mosaic, planes, from, to, { clip })
);

export const reduce = unlessStopped(
  ({ source, out, from, to }: Band & { source: PlacedPlanes; out: Planes }) =>
    halveRows(source, out, from, to)
);

/** Rows of a whole picture after a source stage; `stage`: one of its SourceInputs. */
export const change = unlessStopped(
  ({
    source,
    out,
    stage,
    from,
    to
  }: Band & { source: PlacedPlanes; out: PlacedPlanes; stage: SharedInputs }) =>
    changeRows(source, out, readInputs<SourceInputs[number]>(stage), from, to)
);

/** What light of each colour a frame has over another of the same room; null where they show too little in common. */
export const common = unlessStopped(({ like, frame }: CommonTask): CommonLight | null => {
  const [one, other] = [like, frame].map(({ planes, falloff, size }) => findPlaces(planes, falloff, size));
  return commonLight(one, other);
});

/** Patches for the dust that shows on planes of about a proxy's size. */
export const dust = unlessStopped(lookForDust);

/** A resource that stages read, in memory that whoever asks for it takes over. */
export const makeResource = unlessStopped((task: { ask: Ask } & ResourceSource): unknown =>
  resourceOf(task.ask).make(task, task.ask.data)
);

export const render = unlessStopped(
  ({ source, resources, stages, view, from, to, out }: RenderTask): void => {
    const target = out.subarray(view.width * from * 3, view.width * to * 3);
    renderTile(
      { source, resources, stages: readInputs<StageInputs>(stages), view: bandOf(view, from, to) },
      packRgb(target, view.width, from)
    );
  }
);

/** Edges of developed planes, for the Fringe reading. */
export const edges = unlessStopped(({ planes }: { planes: Planes }): LateralEdge[] =>
  measureEdges(planesSource(planes))
);

/** Lines and long edges of a proxy. */
export const look = unlessStopped(({ planes, size, ...options }: LookTask): LookedAt => {
  const toField = ([x, y]: Point): Point => sensorToField([x / planes.scaleX, y / planes.scaleY], size);
  return lookAtPicture(greyOf(planes), { ...options, toField });
});

/** Long edges of a proxy. */
export const curves = unlessStopped(({ planes, size }: { planes: PlacedPlanes; size: FrameSize }): Curve[] =>
  longEdges(greyOf(planes), ([x, y]) => sensorToField([x / planes.scaleX, y / planes.scaleY], size))
);

/** A lens from the edges of several frames. */
export const lensOfFrames = unlessStopped(
  ({ frames, noise }: { frames: FrameCurves[]; noise?: number }): LensOfFrames =>
    solveLensOfFrames(frames, { noise })
);

/** What the light of a picture says of its tone and its white. */
export const light = unlessStopped(({ planes, toWorking, tone }: LightTask): LightTold => {
  const measured = measureLight(planes, toWorking, RENDITION);
  const told = { tone: suggestTone(measured, tone), white: lightColours(measured) };
  giveLightBack(measured);
  return told;
});

/** Corners of a chart, or null; falloff of a flat frame. Both on full-size planes. */
export const chart = unlessStopped(({ planes }: { planes: Planes }): MeasuredChart | null =>
  measureChart(planes)
);

export const flat = unlessStopped(({ planes }: { planes: Planes }): FlatFit => fitFlat(planes));

interface Reducing extends Band {
  projection: Projection;
  view: View;
  out: Uint16Array;
}

/** Rows of a reduction, stored as 16-bit codes; `reduced` writes them to planes. */
function storeReduced(
  { view, from, to, out }: Reducing,
  reduced: (planes: Planes, valid: Uint8Array) => void
): void {
  inArena((arena) => {
    const count = view.width * (to - from);
    const planes: Planes = {
      width: view.width,
      height: to - from,
      r: arena.float32(count),
      g: arena.float32(count),
      b: arena.float32(count)
    };
    reduced(planes, arena.uint8(count));
    storePlanes(planes, out.subarray(view.width * from * 3, view.width * to * 3));
  });
}

/** Rows of the whole frame at another size, stored as 16-bit codes: the proxy. */
export const reduceStored = unlessStopped((task: Reducing & { source: PlacedPlanes }): void => {
  const mesh = buildMesh(task.projection, bandOf(task.view, task.from, task.to));
  storeReduced(task, (planes, valid) => resample(task.source, mesh, { ...planes, valid }, { folded: true }));
});

/** Bands of a mosaic to its lattices, and of these to the codes of a reduction. */
export const split = unlessStopped(
  ({ mosaic, lattices, from, to }: Band & { mosaic: Mosaic; lattices: Lattices }): void =>
    splitBand(mosaic, lattices, from, to)
);

export const reduceSplit = unlessStopped((task: Reducing & { lattices: Lattices }): void => {
  const mesh = buildMesh(task.projection, bandOf(task.view, task.from, task.to));
  storeReduced(task, (planes) => reduceLattices(task.lattices, mesh, planes));
});

/** Rows of planes from the codes of a picture. */
export const fill = unlessStopped(
  ({
    codes,
    encoding,
    planes,
    from,
    to
  }: Band & { codes: Uint16Array; encoding: 'linear' | 'srgb' | 'stored'; planes: Planes }): void => {
    const { width } = planes;
    const values = { linear: LINEAR_16, srgb: SRGB_16, stored: STORED_16 }[encoding];
    fillPlanes(codes.subarray(from * width * 3, to * width * 3), width, planes, values, 0, from);
  }
);

/** A tile of planes as they are, stored as 16-bit codes. */
export const storeTile = unlessStopped(
  ({
    planes,
    tile,
    out
  }: {
    planes: Planes;
    tile: { left: number; top: number; width: number; height: number };
    out: Uint16Array;
  }): void => storeArea(planes, tile, out)
);

/**
 * A frame with the skies that were laid into it, in place of how it was developed: what is measured of a frame (its light, what its
 * details add, what glows) is measured on what is seen. In the file's own colours, with the falloff of its lens.
 */
import type { FrameSize } from '../../../math/frame-geometry.ts';
import { halfDiagonal } from '../../../math/frame-geometry.ts';
import { type Matrix3, invert3 } from '../../../math/matrix3.ts';
import { type Projection, sensorToUpright } from '../../../picture/geometry/projection.ts';
import { inArena } from '../../../picture/kernels/arena.ts';
import { addressOf, takeFloat32, takenTogether } from '../../../picture/kernels/heap.ts';
import { kernels } from '../../../picture/kernels/kernels.ts';
import { bilinear } from '../../../picture/tile/bilinear.ts';
import type { MapMesh } from '../../../picture/tile/mesh.ts';
import type { PlacedPlanes } from '../../../picture/tile/planes.ts';
import { type Ask, type Resource, type ResourceSource, keyOf } from '../../../picture/tile/resource.ts';
import type { Rows, Tile } from '../../../picture/tile/tile.ts';
import { weighingRows } from '../weigh-rows.ts';
import { type Laying, type SkyData, areaSkyStage, layingSky } from './sky-stage.ts';

interface LaidSpec extends SkyData {
  /** Where the frame's pixels lie upright, since skies do. */
  projection: Projection;
}

/** Pixels along the longer edge that are enough for whatever is measured. */
const LONG_EDGE = 1536;
/** Pixels between nodes of the mesh, and rows that are worked on together. */
const STEP = 16;

/** A frame's own planes as a tile whose pixels lie where the sensor has them. */
function sensorTile(planes: PlacedPlanes, size: FrameSize): Omit<Tile, 'valid'> {
  const { width, height, scaleX, scaleY } = planes;
  const [columns, rows] = [Math.ceil(width / STEP) + 1, Math.ceil(height / STEP) + 1];
  const many = columns * rows;
  const view = { left: 0, top: 0, pixel: 1 / scaleX / halfDiagonal(size), width, height };
  const x = Float32Array.from({ length: many }, (_, i) => ((i % columns) * STEP) / scaleX);
  const y = Float32Array.from({ length: many }, (_, i) => (Math.floor(i / columns) * STEP) / scaleY);
  return { ...planes, view, size, mesh: { view, step: STEP, columns, rows, x, y, colours: null, error: 0 } };
}

/** Writes where pixels lie upright: bilinear between the nodes of a mesh, as all of geometry is. */
function uprightOf({ x, y, columns, rows, step }: MapMesh, projection: Projection): Laying['upright'] {
  const nodes = Array.from(x, (each, i) => sensorToUpright([each, y[i]], projection) ?? [NaN, NaN]);
  const [across, down] = [0, 1].map((axis) => Float32Array.from(nodes, (node) => node[axis]));
  return (row, column, out) => {
    // Nodes lie at whole numbers, where a plane has the edges of its pixels.
    const at = [(column + 0.5) / step + 0.5, (row + 0.5) / step + 0.5] as const;
    out.x = bilinear(across, columns, rows, ...at);
    out.y = bilinear(down, columns, rows, ...at);
  };
}

function layInto(
  planes: PlacedPlanes,
  { toWorking, resources }: Pick<ResourceSource, 'toWorking' | 'resources'>,
  { areas, falloff, projection }: LaidSpec
): void {
  const { width, height } = planes;
  const { mixColours } = kernels();
  const colours = [planes.r, planes.g, planes.b] as const;
  const [r, g, b] = colours.map(addressOf);
  inArena((arena) => {
    const mix = (by: Matrix3): void => mixColours(r, g, b, width * height, arena.addressOf(by), Infinity);
    mix(toWorking);
    const size = projection.size;
    const valid = arena.uint8(width * STEP).fill(1);
    const tile = { ...sensorTile(planes, size), valid, resources };
    const how = {
      pixel: tile.view.pixel,
      upright: uprightOf(tile.mesh, projection),
      falloff: null,
      darkened: falloff
    };
    const weigh = weighingRows(tile, areas, 0, arena);
    const laid = areas.map((area) => layingSky(tile, area, how, arena));
    for (let top = 0; top < height; top += STEP) {
      const many = Math.min(STEP, height - top);
      const part = (plane: Float32Array): Float32Array => plane.subarray(top * width, (top + many) * width);
      const [red, green, blue] = colours.map(part);
      const rows: Rows = { top, left: 0, width, height: many, r: red, g: green, b: blue, valid };
      rows.weights = weigh(rows);
      for (const lay of laid) lay(rows);
    }
    mix(invert3(toWorking));
  });
}

export const laidResource: Resource<'laid', LaidSpec, PlacedPlanes> = {
  name: 'laid',
  of: 'frame',
  longEdge: LONG_EDGE,
  reads: (spec) => areaSkyStage.reads!(spec),
  stored: () => null,
  make({ planes, toWorking, resources }, spec) {
    if (!planes) throw new Error('Skies are laid into a picture.');
    return takenTogether((own) => {
      const copy = (plane: Float32Array): Float32Array => {
        const of = own(takeFloat32(plane.length));
        of.set(plane);
        return of;
      };
      const out = { ...planes, r: copy(planes.r), g: copy(planes.g), b: copy(planes.b) };
      // A sky that cannot be had is laid in by no stage, either.
      const isThere = (area: LaidSpec['areas'][number]): boolean =>
        areaSkyStage.reads!({ ...spec, areas: [area] }).every((ask) => resources.has(keyOf(ask)));
      layInto(out, { toWorking, resources }, { ...spec, areas: spec.areas.filter(isThere) });
      return out;
    });
  },
  memory: ({ r, g, b }) => [r, g, b],
  missing: 'The skies of this frame could not be laid in.'
};

/** What asks for a frame with its skies laid in; null where it has its own. */
export const askForLaid = (skies: SkyData | null, projection: Projection): Ask<'laid', LaidSpec> | null =>
  skies && { resource: 'laid', data: { ...skies, projection } };

/**
 * The one resampling: fills output rows from the source planes through the mesh. Each pixel's place is linear in double
 * precision within a mesh cell's row; the kernel's weights come from tables (`kernel.ts`).
 */
import { type Arena, inArena } from '../kernels/arena.ts';
import { addressOf } from '../kernels/heap.ts';
import { kernels } from '../kernels/kernels.ts';
import type { MapMesh } from '../tile/mesh.ts';
import { type PlacedPlanes, type Planes, addresses } from '../tile/planes.ts';
import { WIDEST, tableAddresses } from './kernel.ts';

export interface ResampleOptions {
  /** First output row (default 0) and the row after the last (default: all). */
  from?: number;
  to?: number;
  /** Take the plain four-tap kernel whatever the reduction: fast, for a picture in motion. */
  draft?: boolean;
  /** Leave light above white folded, as it stands in the source: for planes that are stored. */
  folded?: boolean;
  /** Fill green alone, from green: of a picture that has one plane. */
  onlyGreen?: boolean;
}

/** Planes with the validity of each pixel: 1 where there is a real one; elsewhere the planes are 0. */
export interface ValidPlanes extends Planes {
  valid: Uint8Array;
}

function nodeAddresses(
  { x, y, colours }: MapMesh,
  arena: Arena
): [number, number, number, number, number, number] {
  const of = (nodes: Float32Array | undefined): number => (nodes ? arena.addressOf(nodes) : 0);
  return [of(x), of(y), of(colours?.redX), of(colours?.redY), of(colours?.blueX), of(colours?.blueY)];
}

/**
 * Fills rows [from, to) of an output as wide as the mesh's view; row `from` goes to the first row of `out`. Pixels from
 * outside the source are not valid. Light above white comes out as it is, unless it is to stay folded.
 */
export function resample(
  source: PlacedPlanes,
  mesh: MapMesh,
  out: ValidPlanes,
  { from = 0, to = mesh.view.height, draft = false, folded = false, onlyGreen = false }: ResampleOptions = {}
): void {
  const { placeSource, resampleRows } = kernels();
  const { originX, originY, scaleX, scaleY, width, height } = source;
  const used = (of: Planes): [number, number, number] =>
    onlyGreen ? [0, addressOf(of.g), 0] : addresses(of);
  inArena((arena) => {
    placeSource(originX, originY, scaleX, scaleY, width, height);
    resampleRows(
      ...used(source),
      ...nodeAddresses(mesh, arena),
      mesh.columns,
      mesh.step,
      mesh.view.width,
      from,
      to,
      ...used(out),
      addressOf(out.valid),
      tableAddresses(),
      WIDEST,
      draft ? 1 : 0,
      folded ? 1 : 0
    );
  });
}

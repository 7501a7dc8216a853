/** What stages read beside the tiles of one frame's pictures, made by the pool. */
import { adopt, giveBack } from '../../core/picture/kernels/heap.ts';
import type { Matrix3 } from '../../core/math/matrix3.ts';
import type { PlacedPlanes } from '../../core/picture/tile/planes.ts';
import type { Ask } from '../../core/picture/tile/resource.ts';
import { type Lease, MissingResource, createResourceLoader } from '../../core/render/load-resources.ts';
import { type AnyResource, resourceOf } from '../../core/render/resources.ts';
import { UserError } from '../user-error.ts';
import type { Halves } from './linear-source.ts';
import type { Pool } from './pool.ts';

/** The bytes that are kept below a path such as `looks/plaster`; null where there are none. */
export type FindStored = (path: string) => Uint8Array | null | Promise<Uint8Array | null>;

export interface FrameResources {
  /** All that is asked for, made where it is not there yet; throws a UserError where something cannot be had. */
  lease(asks: readonly Ask[], signal?: AbortSignal): Promise<Lease>;
  /** Which of what is asked for cannot be had. */
  missing(asks: readonly Ask[]): Promise<Ask[]>;
  /** Gives everything back; nothing may be lent any more. */
  close(): void;
}

/** The frame, as its source stages left it: there is one for each developed picture. */
const FRAME = 'this frame';

/** How many frames had resources. */
let frames = 0;

/** `halves` are those of the planes, for what needs no more; they outlast the resources. */
export function frameResources(
  planes: PlacedPlanes,
  toWorking: Matrix3,
  findStored: FindStored,
  pool: Pool,
  halves?: Halves
): FrameResources {
  const planesFor = async ({ of, longEdge }: AnyResource): Promise<PlacedPlanes | null> => {
    if (of !== 'frame') return null;
    const enough = longEdge && Math.max(planes.width, planes.height) / longEdge;
    return enough && halves ? halves.halfFor(enough) : planes;
  };
  // Threads tell one frame's pictures from another's.
  const own = ++frames;
  const loader = createResourceLoader({
    async make({ ask }, resource, reads) {
      const path = resource.stored(ask.data);
      const bytes = path === null ? null : await findStored(path);
      if (path !== null && bytes === null) throw new MissingResource(resource);
      const planes = await planesFor(resource);
      const from = {
        planes,
        picture: `${own} ${planes?.width ?? 0}`,
        toWorking,
        bytes,
        resources: reads.values
      };
      const value = await pool.run({ ask, ...from }, { name: 'makeResource' });
      adopt(...resource.memory(value));
      return value;
    },
    giveBack: (_, value, resource) => giveBack(...resource.memory(value))
  });
  async function missing(asks: readonly Ask[]): Promise<Ask[]> {
    await loader.load(asks, FRAME);
    return asks.filter((ask) => loader.isMissing(ask, FRAME));
  }
  return {
    missing,
    async lease(asks, signal) {
      const [gone] = await missing(asks);
      signal?.throwIfAborted();
      if (gone) throw new UserError(resourceOf(gone).missing);
      return loader.borrow(asks, FRAME);
    },
    close: () => loader.forget(true)
  };
}

/** The one resampling: a tile of the corrected picture from the planes of the photograph. */
import { MESH_ERROR, buildMesh } from '../picture/geometry/build-mesh.ts';
import type { Projection } from '../picture/geometry/projection.ts';
import { resample } from '../picture/geometry/resample.ts';
import { takeUint8 } from '../picture/kernels/heap.ts';
import { takePlanes } from '../picture/tile/planes.ts';
import type { SourceStage } from '../picture/tile/tile.ts';

interface Given {
  plan: { projection: Projection };
}

export const geometryStage: SourceStage<'geometry', Given, Projection> = {
  name: 'geometry',
  kind: 'source',
  prepare: ({ plan }) => plan.projection,
  make({ source, view, draft, meshError = MESH_ERROR }, projection) {
    const mesh = buildMesh(projection, view, meshError);
    const planes = takePlanes(view.width, view.height);
    const valid = takeUint8(view.width * view.height);
    resample(source, mesh, { ...planes, valid }, { draft });
    return { ...planes, view, size: projection.size, mesh, valid };
  }
};

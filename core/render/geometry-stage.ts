/** The one resampling: a tile of the corrected picture from the planes of the photograph. */
import { MESH_ERROR, buildMesh } from '../geometry/build-mesh.ts';
import type { Projection } from '../geometry/projection.ts';
import { resample } from '../geometry/resample.ts';
import { unfoldHighlight } from '../tile/highlights.ts';
import { allocatePlanes } from '../tile/planes.ts';
import type { SourceStage } from '../tile/tile.ts';

interface Given {
  plan: { projection: Projection };
}

export const geometryStage: SourceStage<'geometry', Given, Projection> = {
  name: 'geometry',
  kind: 'source',
  prepare: ({ plan }) => plan.projection,
  make({ source, view, draft, meshError = MESH_ERROR }, projection) {
    const mesh = buildMesh(projection, view, meshError);
    const planes = allocatePlanes(view.width, view.height);
    const valid = new Uint8Array(view.width * view.height);
    resample(source, mesh, { ...planes, valid }, { draft });
    for (const plane of [planes.r, planes.g, planes.b])
      for (let i = 0; i < plane.length; i++) if (plane[i] > 1) plane[i] = unfoldHighlight(plane[i]);
    return { ...planes, view, size: projection.size, mesh, valid };
  }
};

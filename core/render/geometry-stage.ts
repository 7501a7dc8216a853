/** The one resampling: a tile of the corrected picture from the planes of the photograph. */
import { MESH_ERROR, buildMesh } from '../picture/geometry/build-mesh.ts';
import type { Projection } from '../picture/geometry/projection.ts';
import { resample } from '../picture/geometry/resample.ts';
import { giveTileBack, takeTile } from '../picture/tile/tile.ts';
import type { GeometryStage } from '../picture/tile/stage.ts';

interface Given {
  plan: { projection: Projection };
}

export const geometryStage: GeometryStage<'geometry', Given, Projection> = {
  name: 'geometry',
  kind: 'geometry',
  prepare: ({ plan }) => plan.projection,
  make({ source, view, draft, meshError = MESH_ERROR }, projection) {
    const mesh = buildMesh(projection, view, meshError);
    const tile = takeTile({ view, size: projection.size, mesh });
    try {
      resample(source, mesh, tile, { draft });
      return tile;
    } catch (error) {
      giveTileBack(tile);
      throw error;
    }
  }
};

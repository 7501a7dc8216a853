/** A reduction of a picture from its lattices: each colour is sampled where its sites lie, through the one resampling. */
import { inArena } from '../kernels/arena.ts';
import type { Lattices } from '../raw/lattices.ts';
import type { MapMesh } from '../tile/mesh.ts';
import type { PlacedPlanes, Planes } from '../tile/planes.ts';
import { resample } from './resample.ts';

/** Fills planes of the mesh's view; light above white stays folded. */
export function reduceLattices(
  { colours, planes, width, height }: Lattices,
  mesh: MapMesh,
  out: Planes
): void {
  const placeOf = (place: number): { x: number; y: number } => ({ x: place & 1, y: place >> 1 });
  const [one, other] = [0, 1, 2, 3].filter((place) => colours[place] === 1);
  const [red, blue] = [colours.indexOf(0), colours.indexOf(2)];
  /** Resamples three lattices, with the mesh's own nodes for the second. */
  const sample = (three: readonly [number, number, number], to: Planes): void => {
    const own = placeOf(three[1]);
    const source: PlacedPlanes = {
      width,
      height,
      r: planes[three[0]],
      g: planes[three[1]],
      b: planes[three[2]],
      // The first site's middle lies half a pixel into it; a lattice's pixel is two pixels wide.
      originX: own.x - 0.5,
      originY: own.y - 0.5,
      scaleX: 0.5,
      scaleY: 0.5
    };
    const moved = (nodes: Float32Array, by: number): Float32Array => nodes.map((at) => at - by);
    const [r, b] = [placeOf(three[0]), placeOf(three[2])];
    const apart: MapMesh = {
      ...mesh,
      colours: {
        redX: moved(mesh.x, r.x - own.x),
        redY: moved(mesh.y, r.y - own.y),
        blueX: moved(mesh.x, b.x - own.x),
        blueY: moved(mesh.y, b.y - own.y)
      }
    };
    inArena((arena) =>
      resample(source, apart, { ...to, valid: arena.uint8(to.width * to.height) }, { folded: true })
    );
  };
  sample([red, one, blue], out);
  // Green has sites at two places.
  inArena((arena) => {
    const [r, g, b] = [out.r, out.g, out.b].map(({ length }) => arena.float32(length));
    sample([other, other, other], { ...out, r, g, b });
    for (let i = 0; i < g.length; i++) out.g[i] = (out.g[i] + g[i]) / 2;
  });
}

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
  const moved = (nodes: Float32Array, by: number): Float32Array => nodes.map((at) => at - by);
  /** Resamples the lattice of a place for green, with the mesh's own nodes, and those of red and blue where they are wanted. */
  const sample = (green: number, to: Planes, onlyGreen: boolean): void => {
    const [own, r, b] = [green, red, blue].map(placeOf);
    const source: PlacedPlanes = {
      width,
      height,
      r: planes[red],
      g: planes[green],
      b: planes[blue],
      // The first site's middle lies half a pixel into it; a lattice's pixel is two pixels wide.
      originX: own.x - 0.5,
      originY: own.y - 0.5,
      scaleX: 0.5,
      scaleY: 0.5
    };
    const apart = {
      redX: moved(mesh.x, r.x - own.x),
      redY: moved(mesh.y, r.y - own.y),
      blueX: moved(mesh.x, b.x - own.x),
      blueY: moved(mesh.y, b.y - own.y)
    };
    const through: MapMesh = { ...mesh, colours: onlyGreen ? null : apart };
    inArena((arena) => {
      const valid = arena.uint8(to.width * to.height);
      resample(source, through, { ...to, valid }, { folded: true, onlyGreen });
    });
  };
  sample(one, out, false);
  // Green has sites at two places.
  inArena((arena) => {
    const g = arena.float32(out.g.length);
    sample(other, { ...out, g }, true);
    for (let i = 0; i < g.length; i++) out.g[i] = (out.g[i] + g[i]) / 2;
  });
}

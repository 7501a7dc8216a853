/** What the kernel of resampling has to compute, in plain words and double precision: for tests alone. */
import { unfoldHighlight } from '../tile/highlights.ts';
import type { MapMesh } from '../tile/mesh.ts';
import type { PlacedPlanes } from '../tile/planes.ts';
import { PHASES, kernelTable } from './kernel.ts';
import type { ValidPlanes } from './resample.ts';

/** Every pixel by itself, with all its taps, wherever it lies. */
export function resamplePlainly(source: PlacedPlanes, mesh: MapMesh, out: ValidPlanes, draft = false): void {
  const { view, step, columns, colours } = mesh;
  const { originX, originY, scaleX, scaleY, width, height } = source;
  for (let row = 0; row < view.height; row++) {
    const position = (row + 0.5) / step;
    const fy = position - Math.floor(position);
    for (let x = 0; x < view.width; x++) {
      const column = Math.floor(x / step);
      const i = Math.floor(position) * columns + column;
      const along = (nodes: Float32Array): [number, number] => {
        const start = nodes[i] * (1 - fy) + nodes[i + columns] * fy;
        const end = nodes[i + 1] * (1 - fy) + nodes[i + columns + 1] * fy;
        return [start, (end - start) / step];
      };
      const placed = (nodesX: Float32Array, nodesY: Float32Array): [number, number, number, number] => {
        const [[sx, dx], [sy, dy]] = [along(nodesX), along(nodesY)];
        const n = x - column * step;
        const [stepX, stepY] = [dx * scaleX, dy * scaleY];
        return [
          (sx - originX) * scaleX - 0.5 + stepX / 2 + stepX * n,
          (sy - originY) * scaleY - 0.5 + stepY / 2 + stepY * n,
          stepX,
          stepY
        ];
      };
      const green = placed(mesh.x, mesh.y);
      const down = Math.hypot(
        ((mesh.x[i + columns] - mesh.x[i]) / step) * scaleX,
        ((mesh.y[i + columns] - mesh.y[i]) / step) * scaleY
      );
      const reduction = Math.max(Math.hypot(green[2], green[3]), down);
      const { taps, weights } = kernelTable(draft || reduction <= 1.25 ? 1 : reduction);
      const valueAt = (plane: Float32Array, [px, py]: readonly number[]): number => {
        const [cx, cy] = [
          Math.min(width - 0.5, Math.max(-0.5, px)),
          Math.min(height - 0.5, Math.max(-0.5, py))
        ];
        const [ix, iy] = [Math.floor(cx), Math.floor(cy)];
        const wx = Math.floor((cx - ix) * PHASES + 0.5) * taps;
        const wy = Math.floor((cy - iy) * PHASES + 0.5) * taps;
        let sum = 0;
        // Of pictures that are made smaller: what is about a place bounds it.
        const limited = !draft && (scaleX < 0.99 || reduction > 1.25);
        const half = taps === 4 ? 1 : 2;
        const about: number[] = [];
        for (let b = 0; b < taps; b++)
          for (let a = 0; a < taps; a++) {
            const tx = Math.min(width - 1, Math.max(0, ix - taps / 2 + 1 + a));
            const ty = Math.min(height - 1, Math.max(0, iy - taps / 2 + 1 + b));
            if (Math.abs(a - taps / 2 + 0.5) < half && Math.abs(b - taps / 2 + 0.5) < half)
              about.push(plane[ty * width + tx]);
            sum += weights[wy + b] * weights[wx + a] * plane[ty * width + tx];
          }
        const bounded = limited ? Math.min(Math.max(...about), Math.max(Math.min(...about), sum)) : sum;
        return unfoldHighlight(Math.max(0, bounded));
      };
      const at = row * view.width + x;
      const real =
        green[0] >= -0.5 && green[1] >= -0.5 && green[0] <= width - 0.5 && green[1] <= height - 0.5;
      out.valid[at] = real ? 1 : 0;
      out.g[at] = real ? valueAt(source.g, green) : 0;
      out.r[at] = real ? valueAt(source.r, colours ? placed(colours.redX, colours.redY) : green) : 0;
      out.b[at] = real ? valueAt(source.b, colours ? placed(colours.blueX, colours.blueY) : green) : 0;
    }
  }
}

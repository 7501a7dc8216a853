import type { Planes } from './planes.ts';

/** Copies interleaved linear 16-bit pixels, `width` to a row, into planes at a place. */
export function fillPlanes(values: Uint16Array, width: number, planes: Planes, left = 0, top = 0): void {
  const rows = values.length / 3 / width;
  for (let y = 0; y < rows; y++) {
    let to = (top + y) * planes.width + left;
    let from = y * width * 3;
    for (let x = 0; x < width; x++, to++, from += 3) {
      planes.r[to] = values[from] / 65535;
      planes.g[to] = values[from + 1] / 65535;
      planes.b[to] = values[from + 2] / 65535;
    }
  }
}

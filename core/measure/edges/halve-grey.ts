import type { GreyPlane } from './trace-polyline.ts';

/** A plane of half the size: means of two by two pixels; an odd last row or column is left out. */
export function halveGrey({ width, height, data }: GreyPlane): GreyPlane {
  const [columns, rows] = [width >> 1, height >> 1];
  const half = new Float32Array(columns * rows);
  for (let y = 0; y < rows; y++) {
    for (let x = 0; x < columns; x++) {
      const at = 2 * y * width + 2 * x;
      half[y * columns + x] = (data[at] + data[at + 1] + data[at + width] + data[at + width + 1]) / 4;
    }
  }
  return { width: columns, height: rows, data: half };
}

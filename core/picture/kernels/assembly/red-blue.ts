/** Red and blue at every site, by their differences to green. */
import { EPSILON, greenLanes } from './green';
import { colourAt, pitch, rows } from './mosaic';
import { put } from './upright';

function differenceAt(a: usize, green: usize, place: usize): v128 {
  return f32x4.sub(v128.load(a + place), v128.load(green + place));
}

/** Red and blue from their differences to green; the tile's own pixels go to the planes. */
export function interpolateOthers(
  x0: i32,
  x1: i32,
  y0: i32,
  y1: i32,
  pad: i32,
  a: usize,
  green: usize,
  greenR: usize,
  greenB: usize
): void {
  const half = f32x4.splat(0.5);
  const two = f32x4.splat(2);
  const epsilon = f32x4.splat(EPSILON);
  for (let row = pad; row < rows - pad; row++) {
    const y = y0 + row - pad;
    const redRow = colourAt(y, 0) == 0 || colourAt(y, 1) == 0;
    const isGreen = greenLanes(y);
    const beside = redRow ? greenR : greenB;
    const above = redRow ? greenB : greenR;
    for (let x = x0; x < x1; x += 4) {
      const place = <usize>row * pitch + ((<usize>(x - x0 + pad)) << 2);
      const own = v128.load(a + place);
      const g = v128.load(green + place);
      const across = f32x4.mul(
        half,
        f32x4.add(differenceAt(a, beside, place - 4), differenceAt(a, beside, place + 4))
      );
      const ofRow = v128.bitselect(f32x4.add(v128.load(beside + place), across), own, isGreen);
      const middle = v128.load(above + place);
      const down = f32x4.mul(
        half,
        f32x4.add(differenceAt(a, above, place - pitch), differenceAt(a, above, place + pitch))
      );
      // Differences across the smoother diagonal count more.
      const nw = place - pitch - 4;
      const ne = place - pitch + 4;
      const sw = place + pitch - 4;
      const se = place + pitch + 4;
      const twice = f32x4.mul(two, middle);
      const falling = f32x4.add(
        epsilon,
        f32x4.add(
          f32x4.abs(f32x4.sub(v128.load(a + nw), v128.load(a + se))),
          f32x4.abs(f32x4.sub(f32x4.sub(twice, v128.load(above + nw)), v128.load(above + se)))
        )
      );
      const rising = f32x4.add(
        epsilon,
        f32x4.add(
          f32x4.abs(f32x4.sub(v128.load(a + ne), v128.load(a + sw))),
          f32x4.abs(f32x4.sub(f32x4.sub(twice, v128.load(above + ne)), v128.load(above + sw)))
        )
      );
      const diagonal = f32x4.div(
        f32x4.add(
          f32x4.mul(rising, f32x4.add(differenceAt(a, above, nw), differenceAt(a, above, se))),
          f32x4.mul(falling, f32x4.add(differenceAt(a, above, ne), differenceAt(a, above, sw)))
        ),
        f32x4.mul(two, f32x4.add(rising, falling))
      );
      const other = f32x4.add(middle, v128.bitselect(down, diagonal, isGreen));
      put(redRow ? ofRow : other, g, redRow ? other : ofRow, x, y, x1);
    }
  }
}

/** The mosaic that is developed, and the tile of it that is in work. */

/** Rows and columns of a tile, even. */
export const TILE_WIDTH: i32 = 512;
export const TILE_HEIGHT: i32 = 128;

export let data: usize = 0;
export let stride: i32 = 0;
export let left: i32 = 0;
export let top: i32 = 0;
export let width: i32 = 0;
export let height: i32 = 0;
export let colours: i32 = 0;
export let black: f32 = 0;
export let scale: f32 = 0;
export let levelR: f32 = 0;
export let levelG: f32 = 0;
export let levelB: f32 = 0;
/** Values to a row of the tile in work, its rows, and bytes of a row. */
export let span: i32 = 0;
export let rows: i32 = 0;
export let pitch: usize = 0;

/** What stands in the mosaic: `pattern` holds the colours of the first 2 x 2 sites, two bits each. */
export function describeMosaic(
  values: usize,
  valuesToARow: i32,
  activeLeft: i32,
  activeTop: i32,
  activeWidth: i32,
  activeHeight: i32,
  pattern: i32,
  blackLevel: f32,
  white: f32,
  red: f32,
  green: f32,
  blue: f32
): void {
  data = values;
  stride = valuesToARow;
  left = activeLeft;
  top = activeTop;
  width = activeWidth;
  height = activeHeight;
  colours = pattern;
  black = blackLevel;
  scale = 1 / (white - blackLevel);
  levelR = red;
  levelG = green;
  levelB = blue;
}

/** A tile of so many values to a row, and of so many rows. */
export function beginTile(values: i32, lines: i32): void {
  span = values;
  rows = lines;
  pitch = (<usize>values) << 2;
}

/** Index reflected into 0..size-1 without repeating the border, which keeps the mosaic's phase. */
function reflect(index: i32, size: i32): i32 {
  while (index < 0 || index >= size) index = index < 0 ? -index : 2 * (size - 1) - index;
  return index;
}

export function colourAt(y: i32, x: i32): i32 {
  return (colours >> ((((y & 1) << 1) | (x & 1)) << 1)) & 3;
}

export function levelOf(colour: i32): f32 {
  return colour == 1 ? levelG : colour == 0 ? levelR : levelB;
}

/** Values less the black level, white-balanced, from picture place (x0, y0) on. */
export function balance(x0: i32, y0: i32, out: usize): void {
  const darkness = f32x4.splat(black);
  for (let row = 0; row < rows; row++) {
    const y = reflect(y0 + row, height);
    const source = data + ((<usize>(y + top) * <usize>stride + <usize>left) << 1);
    const even = levelOf(colourAt(y, 0)) * scale;
    const odd = levelOf(colourAt(y, 1)) * scale;
    const to = out + <usize>row * pitch;
    // x0 is even: lanes have the parity of columns.
    const gains = f32x4(even, odd, even, odd);
    for (let x = 0; x < span;) {
      const px = x0 + x;
      if (px >= 0 && px + 4 <= width) {
        const values = f32x4.convert_i32x4_u(v128.load16x4_u(source + ((<usize>px) << 1)));
        v128.store(to + ((<usize>x) << 2), f32x4.mul(f32x4.sub(values, darkness), gains));
        x += 4;
      } else {
        const at = reflect(px, width);
        store<f32>(
          to + ((<usize>x) << 2),
          (<f32>load<u16>(source + ((<usize>at) << 1)) - black) * (at & 1 ? odd : even)
        );
        x++;
      }
    }
  }
}

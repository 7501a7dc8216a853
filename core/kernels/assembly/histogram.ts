/**
 * Counts of 8-bit RGBA pixels, added to 64 of red, 64 of green, 64 of blue, then pixels in all, with any colour at the top,
 * and with all at the bottom. Clear pixels do not count.
 */
export function countColours(rgba: usize, pixels: i32, counts: usize): void {
  for (let i = 0; i < pixels; i++, rgba += 4) {
    const pixel = load<u32>(rgba);
    if (pixel >>> 24 == 0) continue;
    const r = pixel & 255;
    const g = (pixel >>> 8) & 255;
    const b = (pixel >>> 16) & 255;
    add(counts, r >>> 2);
    add(counts, 64 + (g >>> 2));
    add(counts, 128 + (b >>> 2));
    add(counts, 192);
    if (r == 255 || g == 255 || b == 255) add(counts, 193);
    if ((pixel & 0xff_ffff) == 0) add(counts, 194);
  }
}

function add(counts: usize, i: u32): void {
  const at = counts + ((<usize>i) << 2);
  store<u32>(at, load<u32>(at) + 1);
}

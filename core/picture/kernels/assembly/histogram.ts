/**
 * Counts of 8-bit RGBA pixels, added to 256 of red, 256 of green, 256 of blue and 256 of luminance; then pixels in all, with
 * any colour at the top, with all at the bottom; with red, green, blue at the top, and with each at the bottom. Clear pixels
 * do not count.
 */
export function countColours(rgba: usize, pixels: i32, counts: usize): void {
  for (let i = 0; i < pixels; i++, rgba += 4) {
    const pixel = load<u32>(rgba);
    if (pixel >>> 24 == 0) continue;
    const r = pixel & 255;
    const g = (pixel >>> 8) & 255;
    const b = (pixel >>> 16) & 255;
    add(counts, r);
    add(counts, 256 + g);
    add(counts, 512 + b);
    // Shares of red, green and blue after ITU-R BT.709, in 256ths.
    add(counts, 768 + ((r * 54 + g * 183 + b * 19) >>> 8));
    add(counts, 1024);
    if (r == 255 || g == 255 || b == 255) add(counts, 1025);
    if ((pixel & 0xff_ffff) == 0) add(counts, 1026);
    if (r == 255) add(counts, 1027);
    if (g == 255) add(counts, 1028);
    if (b == 255) add(counts, 1029);
    if (r == 0) add(counts, 1030);
    if (g == 0) add(counts, 1031);
    if (b == 0) add(counts, 1032);
  }
}

function add(counts: usize, i: u32): void {
  const at = counts + ((<usize>i) << 2);
  store<u32>(at, load<u32>(at) + 1);
}

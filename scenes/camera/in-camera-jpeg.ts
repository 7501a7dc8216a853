/** The picture as a camera hands it out: sharpened, compressed, without a word of lens or exposure. */
import sharp from 'sharp';
import { srgbEncode } from '../../core/colour/srgb-transfer.ts';
import type { Planes } from '../../core/picture/tile/planes.ts';

export function inCameraJpeg({ r, g, b, width, height }: Planes, quality = 80): Promise<Buffer> {
  const pixels = Buffer.alloc(width * height * 3);
  for (let i = 0; i < width * height; i++)
    [r, g, b].forEach((plane, c) => {
      pixels[i * 3 + c] = Math.round(255 * srgbEncode(Math.min(1, Math.max(0, plane[i]))));
    });
  return sharp(pixels, { raw: { width, height, channels: 3 } })
    .sharpen({ sigma: 1, m1: 1.5, m2: 3 })
    .jpeg({ quality })
    .toBuffer();
}

/** A text or a picture laid over the finished pixels. */
import sharp from 'sharp';
import type { FrameSize } from '../../core/camera/frame-geometry.ts';
import type { Watermark } from '../../core/output/deliverable-schema.ts';
import { UserError } from '../decode/user-error.ts';

/** Distance from the edges, as a share of the shorter one. */
const MARGIN = 0.03;
const TEXT_HEIGHT = 200;

interface Overlay {
  data: Buffer;
  width: number;
  height: number;
}

const ESCAPES: Record<string, string> = { '&': '&amp;', '<': '&lt;', '>': '&gt;' };

async function overlayOf({ text, png, size }: Watermark, picture: FrameSize): Promise<Overlay> {
  const width = Math.max(1, Math.round((picture.width * size) / 100));
  const source = png
    ? sharp(Buffer.from(png, 'base64'), { limitInputPixels: 50e6 })
    : sharp({
        text: {
          text: `<span foreground="white">${text.replace(/[&<>]/g, (c) => ESCAPES[c])}</span>`,
          font: 'sans bold',
          rgba: true,
          height: TEXT_HEIGHT,
          width: 20 * TEXT_HEIGHT
        }
      });
  try {
    const { data, info } = await source
      .ensureAlpha()
      .toColourspace('srgb')
      .resize({ width, height: picture.height, fit: 'inside', withoutEnlargement: false })
      .raw()
      .toBuffer({ resolveWithObject: true });
    if (!data.some((value, i) => i % 4 === 3 && value > 0)) throw new Error('Nothing to be seen.');
    return { data, width: info.width, height: info.height };
  } catch {
    throw new UserError(
      png
        ? 'The watermark is no picture that can be read. Choose a PNG file.'
        : 'The text of the watermark cannot be drawn: this machine has no font for it. Choose a PNG file instead.'
    );
  }
}

/** Refuses what is no picture, before anything is rendered with it. */
export async function checkWatermark(watermark: Watermark | null): Promise<void> {
  if (!watermark) return;
  await overlayOf(watermark, { width: 400, height: 300 });
}

/** Blends the watermark into interleaved RGB, in place. */
export async function applyWatermark(
  pixels: Uint8Array | Uint16Array,
  size: FrameSize,
  watermark: Watermark
): Promise<void> {
  const overlay = await overlayOf(watermark, size);
  const margin = Math.round(Math.min(size.width, size.height) * MARGIN);
  const { place, opacity } = watermark;
  const [right, bottom] = [size.width - overlay.width - margin, size.height - overlay.height - margin];
  const [left, top] = {
    'top left': [margin, margin],
    'top right': [right, margin],
    middle: [(size.width - overlay.width) / 2, (size.height - overlay.height) / 2],
    'bottom left': [margin, bottom],
    'bottom right': [right, bottom]
  }[place].map((value) => Math.max(0, Math.round(value)));
  const scale = pixels instanceof Uint16Array ? 257 : 1;
  for (let y = 0; y < overlay.height && top + y < size.height; y++) {
    for (let x = 0; x < overlay.width && left + x < size.width; x++) {
      const from = (y * overlay.width + x) * 4;
      const share = (overlay.data[from + 3] / 255) * (opacity / 100);
      const to = ((top + y) * size.width + left + x) * 3;
      for (let c = 0; c < 3; c++)
        pixels[to + c] = pixels[to + c] * (1 - share) + overlay.data[from + c] * scale * share + 0.5;
    }
  }
}

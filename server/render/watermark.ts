/** A text or a picture laid over the finished pixels. */
import sharp, { type Sharp } from 'sharp';
import type { FrameSize } from '../../core/math/frame-geometry.ts';
import type { Watermark } from '../../core/picture/output/deliverable-schema.ts';
import { UserError } from '../user-error.ts';

/** Distance from the edges, as a share of the shorter one. */
const MARGIN = 0.03;

interface Overlay {
  data: Buffer;
  width: number;
  height: number;
}

/** A text is drawn at its size, a PNG resized to it; neither is higher than the picture. */
async function overlayOf({ text, png, size }: Watermark, picture: FrameSize): Promise<Overlay> {
  const width = Math.max(1, Math.round((picture.width * size) / 100));
  const within = { width, height: picture.height, fit: 'inside' as const };
  const drawn = async (): Promise<Sharp> => {
    // Fonts take a while to load, and few pictures need them.
    const { outlineText } = await import('./text-outline.ts');
    const outline = outlineText(text);
    return sharp(Buffer.from(outline.svg(Math.min(width, Math.floor(picture.height * outline.ratio)))));
  };
  const source = png
    ? sharp(Buffer.from(png, 'base64'), { limitInputPixels: 50e6 }).resize(within)
    : await drawn();
  try {
    const { data, info } = await source
      .ensureAlpha()
      .toColourspace('srgb')
      .raw()
      .toBuffer({ resolveWithObject: true });
    return { data, width: info.width, height: info.height };
  } catch {
    throw new UserError('The watermark is no picture that can be read. Choose a PNG file.');
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

/** The picture that a camera puts into its raw files for viewing, or a finished picture itself, small and upright. */
import { MOST_PIXELS } from './most-pixels.ts';
import sharp, { type Sharp } from 'sharp';
import UTIF, { type IFD } from 'utif2';
import { type FileKind, fileKind } from './decode-file.ts';

/** Longest edge of what is made, and least of what it is made from, in pixels. */
const EDGE = 480;
const LEAST = 160;

const number = (ifd: IFD, tag: number): number => Number((ifd[`t${tag}`] as number[] | undefined)?.[0] ?? 0);

/** A directory and those below it. */
const withBelow = (ifd: IFD): IFD[] => [
  ifd,
  ...((ifd.subIFD as unknown as IFD[] | undefined) ?? []).flatMap(withBelow)
];

interface Found {
  pixels: number;
  image: Sharp;
}

/** The finished picture of a directory: a JPEG, or plain RGB of 8 bits; null where it holds something else. */
function pictureOf(bytes: Uint8Array, ifd: IFD): Found | null {
  const [width, height] = [number(ifd, 256), number(ifd, 257)];
  const slice = (at: number, length: number): Uint8Array | null =>
    at > 0 && length > 0 && at + length <= bytes.length ? bytes.subarray(at, at + length) : null;
  const compression = number(ifd, 259);
  const strips = (ifd.t273 as number[] | undefined) ?? [];
  const strip = strips.length === 1 ? slice(number(ifd, 273), number(ifd, 279)) : null;
  const jpeg =
    slice(number(ifd, 513), number(ifd, 514)) ?? (compression === 6 || compression === 7 ? strip : null);
  if (jpeg?.[0] === 0xff && jpeg[1] === 0xd8)
    // Lossless JPEG holds sensor values: nothing that can be shown.
    return number(ifd, 262) === 32803 ? null : { pixels: width * height || jpeg.length, image: sharp(jpeg) };
  const plain =
    compression === 1 && number(ifd, 262) === 2 && number(ifd, 277) === 3 && number(ifd, 258) === 8;
  if (!plain || strip?.length !== width * height * 3) return null;
  return { pixels: width * height, image: sharp(strip, { raw: { width, height, channels: 3 } }) };
}

const ANGLES: Record<number, number> = { 3: 180, 6: 90, 8: 270 };

function ofRaw(bytes: Uint8Array): Sharp | null {
  const tiff = (bytes[0] === 0x49 && bytes[1] === 0x49) || (bytes[0] === 0x4d && bytes[1] === 0x4d);
  if (!tiff) return null;
  const ifds = UTIF.decode(bytes.slice().buffer);
  const found = ifds
    .flatMap(withBelow)
    .flatMap((ifd) => pictureOf(bytes, ifd) ?? [])
    .sort((a, b) => a.pixels - b.pixels);
  // The smallest that is large enough, else the largest.
  const best = found.find(({ pixels }) => pixels >= EDGE * EDGE * 0.5) ?? found.at(-1);
  if (!best || best.pixels < LEAST * LEAST * 0.5) return null;
  return best.image.rotate(ANGLES[number(ifds[0], 274)] ?? 0);
}

/** A small JPEG of the file, or null where no picture comes along. */
export async function embeddedPicture(bytes: Uint8Array, name: string): Promise<Buffer | null> {
  const kind: FileKind = fileKind(bytes, name);
  const image = kind === 'raw' ? ofRaw(bytes) : sharp(bytes, { limitInputPixels: MOST_PIXELS }).autoOrient();
  if (!image) return null;
  return image
    .resize({ width: EDGE, height: EDGE, fit: 'inside', withoutEnlargement: true })
    .flatten({ background: '#fff' })
    .jpeg({ quality: 80 })
    .toBuffer();
}

/** Pixels to a file: JPEG, TIFF or PNG with an sRGB profile and the camera's metadata. */
import sharp, { type Exif, type TiffOptions } from 'sharp';
import type { FrameSize } from '../../core/camera/frame-geometry.ts';
import type { FrameFacts } from '../../core/camera/frame-facts.ts';
import { embedProfile } from './embed-profile.ts';

export type OutputFormat = 'jpeg' | 'tiff' | 'png';

export interface EncodeOptions {
  format: OutputFormat;
  /** JPEG quality, 1..100. */
  quality: number;
  /** Pixels per inch, written to the file. */
  ppi: number;
  /** Write the place the picture was taken. */
  keepPosition: boolean;
}

function fraction(value: number): string {
  if (value >= 1 && Number.isInteger(value)) return `${value}/1`;
  if (value < 1 && Math.abs(1 / value - Math.round(1 / value)) < 0.02 / value)
    return `1/${Math.round(1 / value)}`;
  return `${Math.round(value * 1000)}/1000`;
}

function degrees(value: number): string {
  const total = Math.abs(value);
  const whole = Math.floor(total);
  const minutes = Math.floor((total - whole) * 60);
  const seconds = (total - whole - minutes / 60) * 3600;
  return `${whole}/1 ${minutes}/1 ${Math.round(seconds * 1000)}/1000`;
}

/** Exif tags in the form the encoder takes: directory by directory, as text. */
export function exifOf(facts: FrameFacts, keepPosition: boolean): Exif {
  const only = (tags: Record<string, string | 0 | null | undefined>): Record<string, string> =>
    Object.fromEntries(Object.entries(tags).filter((entry): entry is [string, string] => Boolean(entry[1])));
  const exif: Exif = {
    IFD0: only({
      Make: facts.make,
      Model: facts.model,
      Software: 'Line True',
      DateTime: facts.taken,
      Artist: facts.artist,
      Copyright: facts.copyright
    }),
    IFD2: only({
      ExposureTime: facts.exposureTime && fraction(facts.exposureTime),
      FNumber: facts.aperture && fraction(facts.aperture),
      ISOSpeedRatings: facts.iso && String(facts.iso),
      FocalLength: facts.focalLength && fraction(facts.focalLength),
      FocalLengthIn35mmFilm: facts.focalLength35 && String(Math.round(facts.focalLength35)),
      LensMake: facts.lensMaker,
      LensModel: facts.lens,
      DateTimeOriginal: facts.taken
    })
  };
  if (keepPosition && facts.position) {
    const { latitude, longitude } = facts.position;
    exif.IFD3 = {
      GPSLatitudeRef: latitude < 0 ? 'S' : 'N',
      GPSLatitude: degrees(latitude),
      GPSLongitudeRef: longitude < 0 ? 'W' : 'E',
      GPSLongitude: degrees(longitude)
    };
  }
  return exif;
}

/** Encodes interleaved RGB; 16-bit pixels need TIFF or PNG. */
export async function encode(
  pixels: Uint8Array | Uint16Array,
  size: FrameSize,
  facts: FrameFacts,
  { format, quality, ppi, keepPosition }: EncodeOptions
): Promise<Buffer> {
  const plain = sharp(pixels, { raw: { ...size, channels: 3 } }).withExif(exifOf(facts, keepPosition));
  if (pixels instanceof Uint16Array) {
    if (format === 'jpeg') throw new Error('JPEG holds 8 bits per channel.');
    const deep = plain.toColourspace('rgb16');
    const bytes = await (format === 'png' ? deep.png(PNG) : deep.tiff(tiffOptions(ppi))).toBuffer();
    return embedProfile(bytes, format, await srgbProfile(), ppi);
  }
  const image = plain.withIccProfile('srgb', { attach: true }).withMetadata({ density: ppi });
  if (format === 'jpeg') {
    return image.jpeg({ quality, chromaSubsampling: quality >= 90 ? '4:4:4' : '4:2:0' }).toBuffer();
  }
  return (format === 'png' ? image.png(PNG) : image.tiff(tiffOptions(ppi))).toBuffer();
}

const PNG = { compressionLevel: 6 };

/** Resolution in pixels per millimetre, as the encoder takes it. */
const tiffOptions = (ppi: number): TiffOptions => ({
  compression: 'deflate',
  predictor: 'horizontal',
  xres: ppi / 25.4,
  yres: ppi / 25.4
});

let profile: Promise<Buffer> | null = null;

/** The sRGB profile that the encoder embeds, taken from a picture it made. */
function srgbProfile(): Promise<Buffer> {
  profile ??= sharp({ create: { width: 1, height: 1, channels: 3, background: '#fff' } })
    .withIccProfile('srgb')
    .png()
    .toBuffer()
    .then((png) => sharp(png).metadata())
    .then(({ icc }) => icc!);
  return profile;
}
